"use client";
import { parseAsString, useQueryState } from "nuqs";
import { useCallback, useState } from "react";
import type { FieldKey } from "@/core/deal/state";
import type { FrameView } from "@/ui/frame/view";
import { Fetching, NotFetched, usePacked } from "@/ui/usePacked";
import type { EditChoices } from "../server/editChoices";
import type { DealsView } from "../server/readDeals";
import type { SavedView } from "../server/views";
import { unpackDeals } from "../table/pack";
import type { DealRow } from "../table/row";
import { DealsFoot } from "./DealsFoot";
import { DealsTools } from "./DealsTools";
import { DealTable } from "./DealTable";
import { BulkEdit } from "./edit/BulkEdit";
import { EditBox } from "./edit/EditBox";
import { editDealOf } from "./edit/editDeal";
import { FilterSentence } from "./FilterBar";
import { FlagToggles } from "./FlagToggles";
import { NoDeals } from "./NoDeals";
import { DealPanelSlot, DealPictureSlot, type Give, GiveSlot } from "./slots";
import { useDealKeys } from "./useDealKeys";
import { useSelection } from "./useSelection";
import { useShownDeals } from "./useShownDeals";
import { useTable } from "./useTable";
import "./deals.css";

interface Props {
	readonly view: DealsView;
	readonly frame: FrameView["sentence"];
	readonly mayAssign: boolean;
	/** null: nothing may be changed */
	readonly choices: EditChoices | null;
	readonly views: readonly SavedView[];
}

/** The deals of a sentence; where they are many, they come after the page. */
export function DealsScreen({ packed, rest, ...props }: Omit<Props, "view"> & { packed: string | null; rest: string }) {
	const { value, failed, again } = usePacked(packed, rest, unpackDeals);
	if (failed) return <NotFetched again={again} />;
	return value ? <DealsTable view={value} {...props} /> : <Fetching words="Fetching the deals …" />;
}

/** The deals of a sentence as a table that can be filtered, grouped, sorted, edited and acted on; all of how is in the address. */
function DealsTable({ view, frame, mayAssign, choices, views }: Props) {
	const list = useDealList(view, frame, choices, mayAssign);
	const { table, open, setOpen, acts, chosen, nextLit, show, parts, order, sum, selected, clear, assign } = list;
	return (
		<div className={`deals ${open ? "with-sheet" : ""}`}>
			<section className="deals-list" aria-label="Deals">
				<DealsTools view={view} views={views} table={table} ids={order} />
				{view.status === "open" && (
					<FlagToggles
						rows={list.searched}
						names={view.flagNames}
						on={table.flags}
						how={table.how}
						since={table.since}
						against={frame.against.label}
						set={(next) => void table.set({ flags: next.length ? next : null })}
						setHow={(next) => void table.set({ how: next })}
						setSince={(next) => void table.set({ since: next })}
					/>
				)}
				<FilterSentence filters={table.filters} currency={view.currency} set={table.setFilters} looking={list.looking} />
				{table.drawn && view.status === "open" && order.length > 0 && (
					<DealPictureSlot
						rows={order}
						currency={view.currency}
						today={frame.seen.day}
						selected={selected}
						here={open ?? list.here}
						onOpen={show}
						onMark={(ids) => list.markAll(ids, true)}
					/>
				)}
				<Rows view={view} frame={frame} list={list} mayMark={mayAssign} mayEdit={choices !== null} />
				<DealsFoot
					view={view}
					due={frame.due}
					rows={parts.due}
					carried={parts.carried}
					sum={sum}
					chosen={mayAssign && selected.size > 0 ? chosen : null}
					onAssign={() => assign(chosen)}
					onChange={choices ? () => acts.setBulk(true) : undefined}
					onClear={clear}
				/>
			</section>
			{open && (
				<DealPanelSlot
					key={open}
					id={open}
					seen={frame.seen.day}
					against={frame.against.day}
					onClose={() => void setOpen(null)}
					onNext={nextLit === null ? null : () => show(nextLit)}
					onAssign={acts.setDraft}
				/>
			)}
			<DealDialogs acts={acts} view={view} chosen={chosen} choices={choices} today={frame.seen.day} onDone={clear} />
		</div>
	);
}

/** The list of deals as it is shown, what is marked and open of it, and what its keys do. */
function useDealList(view: DealsView, frame: Props["frame"], choices: EditChoices | null, mayAssign: boolean) {
	const table = useTable();
	const [open, setOpen] = useQueryState("deal", parseAsString.withOptions({ shallow: true, history: "push" }));
	const acts = useActs();
	const { setDraft, setEditing, setBulk } = acts;
	const shown = useShownDeals(view, table, frame);
	const { order } = shown;
	const selection = useSelection(order, open, setOpen);
	const { chosen, here, at, show, mark, move } = selection;
	const edit = useCallback(
		(row: DealRow, field: FieldKey, target: HTMLElement) => {
			at(row.id);
			setEditing({ id: row.id, field, target });
		},
		[at, setEditing],
	);
	const assign = (deals: readonly DealRow[]) => mayAssign && deals.length > 0 && setDraft({ dealIds: deals.map(({ id }) => id) });
	const nextLit = open === null ? null : nextLitAfter(order, open);
	useDealKeys(!acts.busy, {
		next: nextLit === null ? null : () => show(nextLit),
		move,
		mark: () => here && mark(here),
		show: () => here && show(here),
		assign: () => assign(chosen.length ? chosen : order.filter((row) => row.id === (open ?? here))),
		edit: () => {
			if (!choices) return;
			if (chosen.length) return setBulk(true);
			const id = open ?? here;
			const target = document.querySelector<HTMLElement>(".deal-line.here .cell-edit, .deal-line.here");
			if (id && target) setEditing({ id, field: "closeDate", target });
		},
		close: open === null ? null : () => void setOpen(null),
	});
	return { table, open, setOpen, acts, ...shown, ...selection, edit, assign, nextLit };
}

interface RowsProps extends Pick<Props, "view" | "frame"> {
	readonly list: ReturnType<typeof useDealList>;
	readonly mayMark: boolean;
	readonly mayEdit: boolean;
}

function Rows({ view, frame, list, mayMark, mayEdit }: RowsProps) {
	const { table, open, here } = list;
	if (!list.rows.length)
		return (
			<NoDeals
				all={view.rows.length}
				due={frame.due.label}
				status={view.status}
				onAll={() => void table.set({ flags: null, f: null, text: null, since: null })}
			/>
		);
	return (
		<DealTable
			status={view.status}
			rows={list.order}
			groups={list.groups}
			columns={table.cols}
			currency={view.currency}
			frame={frame}
			selected={list.selected}
			current={open ?? here}
			sheetOpen={open !== null}
			mayMark={mayMark}
			onOpen={list.show}
			onEdit={mayEdit ? list.edit : undefined}
			onMark={list.mark}
			onMarkAll={list.markAll}
			sorts={table.sorts}
			onSort={table.setSorts}
		/>
	);
}

/** The next deal in the list that has a light on, the list being gone round once. */
function nextLitAfter(order: readonly DealRow[], id: string): string | null {
	const at = order.findIndex((row) => row.id === id);
	const round = [...order.slice(at + 1), ...order.slice(0, Math.max(0, at))];
	return round.find((row) => row.level !== "calm")?.id ?? null;
}

/** What is being done with deals in a box of its own: a task given, one field changed, or several deals at once. */
function useActs() {
	const [draft, setDraft] = useState<Give | null>(null);
	const [editing, setEditing] = useState<{ id: string; field: FieldKey; target: HTMLElement } | null>(null);
	const [bulk, setBulk] = useState(false);
	return { draft, setDraft, editing, setEditing, bulk, setBulk, busy: draft !== null || editing !== null || bulk };
}

interface DialogProps {
	readonly acts: ReturnType<typeof useActs>;
	readonly view: DealsView;
	readonly chosen: readonly DealRow[];
	readonly choices: EditChoices | null;
	readonly today: string;
	/** what was asked for was done: nothing stays marked */
	readonly onDone: () => void;
}

function DealDialogs({ acts, view, chosen, choices, today, onDone }: DialogProps) {
	const { draft, setDraft, editing, setEditing, bulk, setBulk } = acts;
	const edited = editing && view.rows.find((row) => row.id === editing.id);
	const closing = (close: () => void) => (done: boolean) => {
		close();
		if (done) onDone();
	};
	return (
		<>
			{draft && <GiveSlot give={draft} onClose={closing(() => setDraft(null))} />}
			{editing && edited && choices && (
				<EditBox
					key={editing.id + editing.field}
					deal={editDealOf(edited)}
					field={editing.field}
					target={editing.target}
					choices={choices}
					today={today}
					onClose={() => setEditing(null)}
				/>
			)}
			{bulk && choices && <BulkEdit deals={chosen.map(editDealOf)} choices={choices} today={today} onClose={closing(() => setBulk(false))} />}
		</>
	);
}
