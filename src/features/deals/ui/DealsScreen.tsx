"use client";
import { useSearchParams } from "next/navigation";
import { parseAsString, useQueryState } from "nuqs";
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import { Button, Dropdown, Form } from "react-bootstrap";
import { useHotkeys } from "react-hotkeys-hook";
import type { FieldKey } from "@/core/deal/state";
import { SheetPanel } from "@/features/sheet/ui/SheetPanel";
import { AssignDialog, type Draft } from "@/features/tasks/ui/AssignDialog";
import { money, shortMoney } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import { useNotice } from "@/ui/Notices";
import { Fetching, NotFetched, usePacked } from "@/ui/usePacked";
import { meets } from "../filters";
import type { EditChoices } from "../server/editChoices";
import type { DealRow, DealsView } from "../server/readDeals";
import type { SavedView } from "../server/views";
import { GROUPINGS, groupDeals, totals } from "../table/groups";
import { unpackDeals } from "../table/pack";
import { sortDeals } from "../table/sorts";
import { AlsoOpen } from "./AlsoOpen";
import { ColumnsMenu } from "./ColumnsMenu";
import { DealTable } from "./DealTable";
import { BulkEdit } from "./edit/BulkEdit";
import { EditBox } from "./edit/EditBox";
import { editDealOf } from "./edit/editDeal";
import { FilterMenu, FilterSentence } from "./FilterBar";
import { FlagToggles, LIT } from "./FlagToggles";
import { useFoundTexts, useTable } from "./useTable";
import { ViewsMenu } from "./ViewsMenu";
import "./deals.css";

interface Props {
	readonly view: DealsView;
	readonly frame: FrameView["sentence"];
	readonly mayAssign: boolean;
	/** the day a task is due unless another is chosen */
	readonly due: string;
	/** null: nothing may be changed */
	readonly choices: EditChoices | null;
	readonly views: readonly SavedView[];
}

/** Keys work while a box to select by is in focus, but not while somebody writes. */
const ON_BOXES = {
	enableOnFormTags: true,
	ignoreEventWhen: (event: KeyboardEvent) => (event.target as HTMLElement).closest('input:not([type="checkbox"]), textarea, select') !== null,
};

const texts = new WeakMap<DealRow, string>();

/** Whether all words stand in what a row shows. Its text is made once a row. */
function matches(row: DealRow, words: readonly string[]): boolean {
	let text = texts.get(row);
	if (text === undefined) {
		text = `${row.name} ${row.account} ${row.owner} ${row.stage} ${row.nextStep ?? ""} ${row.flags.map((flag) => flag.label).join(" ")}`.toLowerCase();
		texts.set(row, text);
	}
	return words.every((word) => text.includes(word));
}

/** The deals of a sentence; where they are many, they come after the page. */
export function DealsScreen({ packed, rest, ...props }: Omit<Props, "view"> & { packed: string | null; rest: string }) {
	const { value, failed, again } = usePacked(packed, rest, unpackDeals);
	if (failed) return <NotFetched again={again} />;
	return value ? <DealsTable view={value} {...props} /> : <Fetching words="Fetching the deals …" />;
}

/** The deals of a sentence as a table that can be filtered, grouped, sorted, edited and acted on; all of how is in the address. */
function DealsTable({ view, frame, mayAssign, due, choices, views }: Props) {
	const table = useTable();
	const { flags, how, since, filters, sorts, cols, group, text } = table;
	const [open, setOpen] = useQueryState("deal", parseAsString.withOptions({ shallow: true, history: "push" }));
	const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
	const [current, setCurrent] = useState<string | null>(open);
	const [draft, setDraft] = useState<Draft | null>(null);
	const [editing, setEditing] = useState<{ id: string; field: FieldKey; target: HTMLElement } | null>(null);
	const [bulk, setBulk] = useState(false);
	const words = useDeferredValue(text.trim().toLowerCase());
	const { found, looking } = useFoundTexts(filters);

	const searched = useMemo(() => {
		const setting = { seen: frame.seen.day, currency: view.currency, found };
		const wanted = words ? words.split(/\s+/) : [];
		return view.rows.filter((row) => matches(row, wanted) && filters.every((filter) => meets(row, filter, setting)));
	}, [view, words, filters, found, frame.seen.day]);
	const rows = useMemo(() => {
		const asked = flags.filter((flag) => flag !== LIT);
		const carries = (row: DealRow, code: string) =>
			since === "lit" ? row.newlyLit.includes(code) : since === "out" ? row.wentOut.includes(code) : row.flags.some((flag) => flag.code === code);
		const fits = (row: DealRow) => {
			if (flags.includes(LIT) && row.level === "calm") return false;
			if (!asked.length) return since === "lit" ? row.newlyLit.length > 0 : since === "out" ? row.wentOut.length > 0 : true;
			return how === "all" ? asked.every((code) => carries(row, code)) : asked.some((code) => carries(row, code));
		};
		return sortDeals(searched.filter(fits), sorts);
	}, [searched, flags, how, since, sorts]);
	const groups = useMemo(() => (group ? groupDeals(rows, group) : null), [rows, group]);
	const order = useMemo(() => (groups ? groups.flatMap((g) => g.rows) : rows), [groups, rows]);

	const chosen = order.filter((row) => selected.has(row.id));
	const sum = useMemo(() => totals(rows), [rows]);
	const here = current && order.some((row) => row.id === current) ? current : null;
	const edited = editing && view.rows.find((row) => row.id === editing.id);

	const show = useCallback(
		(id: string) => {
			setCurrent(id);
			void setOpen(id);
		},
		[setOpen],
	);
	const edit = useCallback((row: DealRow, field: FieldKey, target: HTMLElement) => {
		setCurrent(row.id);
		setEditing({ id: row.id, field, target });
	}, []);
	const mark = useCallback(
		(id: string) =>
			setSelected((now) => {
				const next = new Set(now);
				if (!next.delete(id)) next.add(id);
				return next;
			}),
		[],
	);
	const move = (step: number) => {
		if (!order.length) return;
		const at = order.findIndex((row) => row.id === here);
		const next = order[at < 0 ? 0 : Math.min(order.length - 1, Math.max(0, at + step))];
		if (!next) return;
		setCurrent(next.id);
		if (open) void setOpen(next.id);
	};
	const assign = (deals: readonly DealRow[]) => mayAssign && deals.length > 0 && setDraft({ deals, title: "", flags: [], due });

	const enabled = draft === null && editing === null && !bulk;
	const keys = { enabled, ...ON_BOXES };
	useHotkeys("j", () => move(1), keys);
	useHotkeys("k", () => move(-1), keys);
	useHotkeys("x", () => here && mark(here), keys);
	useHotkeys("enter", () => here && show(here), {
		enabled,
		ignoreEventWhen: (event) => (event.target as HTMLElement).closest("button,a,input") !== null,
	});
	useHotkeys("escape", () => void setOpen(null), { enabled: enabled && open !== null, enableOnFormTags: true });
	useHotkeys("t", () => assign(chosen.length ? chosen : order.filter((row) => row.id === (open ?? here))), keys);
	useHotkeys(
		"e",
		(event) => {
			event.preventDefault();
			if (!choices) return;
			if (chosen.length) return setBulk(true);
			const id = open ?? here;
			const target = document.querySelector<HTMLElement>(".deal-line.here .cell-edit, .deal-line.here");
			if (id && target) setEditing({ id, field: "closeDate", target });
		},
		keys,
	);

	return (
		<div className={`deals ${open ? "with-sheet" : ""}`}>
			<section className="deals-list" aria-label="Deals">
				<div className="deals-tools no-print">
					<div className="deals-menus">
						<ViewsMenu views={views} current={table.view} />
						<FilterMenu rows={view.rows} filters={filters} currency={view.currency} set={table.setFilters} />
						<GroupMenu group={group} set={(next) => void table.set({ group: next })} />
						<ColumnsMenu shown={cols} set={(next) => void table.set({ cols: next })} />
						<ExportMenu columns={cols} ids={order.map((row) => row.id)} />
					</div>
					<Form.Control
						className="deals-find"
						type="search"
						size="sm"
						value={text}
						placeholder="Find in this list"
						aria-label="Find in this list: deals, accounts, reps, next steps"
						onChange={(event) => void table.set({ text: event.target.value || null })}
						onKeyDown={(event) => {
							if (event.key === "Escape") {
								void table.set({ text: null });
								event.currentTarget.blur();
								event.stopPropagation();
							}
						}}
					/>
				</div>
				<FlagToggles
					rows={searched}
					names={view.flagNames}
					on={flags}
					how={how}
					since={since}
					against={frame.against.words}
					set={(next) => void table.set({ flags: next.length ? next : null })}
					setHow={(next) => void table.set({ how: next })}
					setSince={(next) => void table.set({ since: next })}
				/>
				<FilterSentence filters={filters} currency={view.currency} set={table.setFilters} looking={looking} />
				{rows.length ? (
					<DealTable
						rows={order}
						groups={groups}
						columns={cols}
						currency={view.currency}
						frame={frame}
						selected={selected}
						current={open ?? here}
						sheetOpen={open !== null}
						mayMark={mayAssign}
						onOpen={show}
						onEdit={choices ? edit : undefined}
						onMark={mark}
						onMarkAll={(ids, on) => setSelected(on ? new Set(ids) : new Set())}
						sorts={sorts}
						onSort={table.setSorts}
					/>
				) : (
					<Nothing all={view.rows.length} due={frame.due.words} onAll={() => void table.set({ flags: null, f: null, text: null, since: null })} />
				)}
				<div className="deals-foot">
					<div className="small-text second">
						<b>{rows.length}</b> {rows.length === 1 ? "deal" : "deals"} ·{" "}
						<span title={money(sum.amount, view.currency)}>{shortMoney(sum.amount, view.currency)} open</span> ·{" "}
						<span title={`${money(sum.weighted, view.currency)}: each amount times its stage's probability`}>
							{shortMoney(sum.weighted, view.currency)} weighted
						</span>
						<AlsoOpen also={view.also} due={frame.due} />
					</div>
					{mayAssign && selected.size > 0 && (
						<div className="d-flex gap-2 align-items-center no-print">
							<span className="small-text" aria-live="polite">
								{chosen.length} selected · {shortMoney(totals(chosen).amount, view.currency)}
								<span className="second"> · {shortMoney(totals(chosen).weighted, view.currency)} weighted</span>
							</span>
							<Button size="sm" disabled={!chosen.length} onClick={() => assign(chosen)}>
								{chosen.length > 1 ? "Give a task to each owner" : "Give a task"}
							</Button>
							{choices && (
								<Button size="sm" variant="outline-primary" disabled={!chosen.length} onClick={() => setBulk(true)}>
									Change
								</Button>
							)}
							<Button size="sm" variant="link" onClick={() => setSelected(new Set())}>
								Clear
							</Button>
						</div>
					)}
				</div>
			</section>
			{open && (
				<SheetPanel
					key={open}
					id={open}
					seen={frame.seen.day}
					against={frame.against.day}
					onClose={() => void setOpen(null)}
					onAssign={(given) => {
						const row = view.rows.find((r) => r.id === open);
						setDraft({ deals: [row ?? given.deal], title: given.title, flags: given.flags, due });
					}}
				/>
			)}
			{draft && (
				<AssignDialog
					draft={draft}
					today={frame.seen.day}
					onClose={(done) => {
						setDraft(null);
						if (done) setSelected(new Set());
					}}
				/>
			)}
			{editing && edited && choices && (
				<EditBox
					key={editing.id + editing.field}
					deal={editDealOf(edited)}
					field={editing.field}
					target={editing.target}
					choices={choices}
					today={frame.seen.day}
					onClose={() => setEditing(null)}
				/>
			)}
			{bulk && choices && (
				<BulkEdit
					deals={chosen.map(editDealOf)}
					choices={choices}
					today={frame.seen.day}
					onClose={(done) => {
						setBulk(false);
						if (done) setSelected(new Set());
					}}
				/>
			)}
		</div>
	);
}

function GroupMenu({ group, set }: { group: string | null; set: (group: string | null) => void }) {
	return (
		<Dropdown>
			<Dropdown.Toggle size="sm" variant="outline-primary">
				{group ? `By ${GROUPINGS.find((g) => g.key === group)?.words}` : "Group"}
			</Dropdown.Toggle>
			<Dropdown.Menu>
				<Dropdown.Item as="button" type="button" active={!group} onClick={() => set(null)}>
					No groups
				</Dropdown.Item>
				{GROUPINGS.map(({ key, words }) => (
					<Dropdown.Item as="button" type="button" key={key} active={key === group} onClick={() => set(key)}>
						By {words}
					</Dropdown.Item>
				))}
			</Dropdown.Menu>
		</Dropdown>
	);
}

/** What is shown, in its order and its columns, as a file. */
function ExportMenu({ columns, ids }: { columns: readonly string[]; ids: readonly string[] }) {
	const params = useSearchParams();
	const notice = useNotice();
	const save = async (form: "csv" | "xlsx") => {
		const answer = await fetch(`/table?${params}`, {
			method: "POST",
			headers: { "content-type": "application/json" },
			body: JSON.stringify({ form, columns, ids }),
		}).catch(() => null);
		if (!answer?.ok) return notice({ words: "The file can’t be made just now. Nothing was changed; try again." });
		const link = document.createElement("a");
		link.href = URL.createObjectURL(await answer.blob());
		link.download = `deals.${form}`;
		link.click();
		setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
	};
	return (
		<Dropdown>
			<Dropdown.Toggle size="sm" variant="outline-primary" disabled={!ids.length}>
				Export
			</Dropdown.Toggle>
			<Dropdown.Menu>
				<Dropdown.Item as="button" type="button" onClick={() => void save("csv")}>
					What is shown, as CSV
				</Dropdown.Item>
				<Dropdown.Item as="button" type="button" onClick={() => void save("xlsx")}>
					What is shown, as XLSX
				</Dropdown.Item>
			</Dropdown.Menu>
		</Dropdown>
	);
}

function Nothing({ all, due, onAll }: { all: number; due: string; onAll: () => void }) {
	return (
		<div className="panel empty">
			{all ? (
				<>
					<h2>No deal fits</h2>
					<p>{all} deals are due in this period; none has these words, flags and figures.</p>
					<Button variant="outline-primary" onClick={onAll}>
						Show all {all}
					</Button>
				</>
			) : (
				<>
					<h2>No open deals here</h2>
					<p>Nobody of this choice has an open deal due in {due}. Choose another period or team in the sentence above.</p>
				</>
			)}
		</div>
	);
}
