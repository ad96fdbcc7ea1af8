"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Form } from "react-bootstrap";
import { flushSync } from "react-dom";
import { byCount } from "@/core/words/grammar";
import { currencySign, dayNumber, shortMoney } from "@/ui/format";
import type { FrameView } from "@/ui/frame/view";
import type { TrailSpan } from "@/ui/parts/Trail";
import { meaning } from "@/ui/terms";
import { COLUMNS, columnOf } from "../columns";
import type { CellSetting } from "../columns/column";
import type { Group } from "../table/groups";
import type { DealRow } from "../table/row";
import type { Sort } from "../table/sorts";
import type { Status } from "../table/statuses";
import { DealCell } from "./DealCell";

interface Props {
	readonly status: Status;
	readonly rows: readonly DealRow[];
	/** null: not grouped */
	readonly groups: readonly Group[] | null;
	readonly columns: readonly string[];
	readonly currency: string;
	readonly frame: FrameView["sentence"];
	readonly selected: ReadonlySet<string>;
	readonly current: string | null;
	readonly sheetOpen: boolean;
	readonly mayMark: boolean;
	readonly sorts: readonly Sort[];
	readonly onSort: (sorts: readonly Sort[]) => void;
	readonly onOpen: (id: string) => void;
	readonly onEdit?: CellSetting["onEdit"];
	readonly onMark: (id: string) => void;
	readonly onMarkAll: (ids: readonly string[], on: boolean) => void;
}

type Entry = { readonly group: Group } | { readonly row: DealRow };

const ROW = 50;
const ROW_NARROW = 104;
const GROUP = 34;
/** what stands below the table: the totals and the page’s edge */
const FOOT = 70;
const NARROW = "(max-width: 800px)";
/** what is left beside an open sheet */
const BESIDE_SHEET = COLUMNS.filter((column) => column.beside).map((column) => column.key);
const USUAL_WIDTH = "4.9rem";
/** pixels that a column can be no narrower; with more than fit, the table scrolls to the side */
const USUAL_LEAST = 92;

/** Trails share a span around the period, or around the seen day where the period is open-ended. */
function spanOf(frame: FrameView["sentence"]): TrailSpan {
	const seen = dayNumber(frame.seen.day);
	const end = frame.due.end && frame.due.end < "9000" ? dayNumber(frame.due.end) : null;
	const start = frame.due.start && frame.due.start > "1000" ? dayNumber(frame.due.start) : null;
	return { from: (start ?? seen) - 92, to: (end ?? seen + 150) + 31, end };
}

function useNarrow(): boolean {
	const [narrow, setNarrow] = useState(false);
	useEffect(() => {
		const media = window.matchMedia(NARROW);
		const follow = () => setNarrow(media.matches);
		follow();
		media.addEventListener("change", follow);
		return () => media.removeEventListener("change", follow);
	}, []);
	return narrow;
}

/** How far below the window's top an element begins: what is above it decides how much room it has. */
function useTop(element: RefObject<HTMLElement | null>): number | null {
	const [top, setTop] = useState<number | null>(null);
	useLayoutEffect(() => {
		const found = element.current ? Math.round(element.current.getBoundingClientRect().top + window.scrollY) : null;
		setTop(found);
	});
	return top;
}

/** Paper gets all rows, not only those in view. */
function usePrinting(): boolean {
	const [printing, setPrinting] = useState(false);
	useEffect(() => {
		const begin = () => flushSync(() => setPrinting(true));
		const end = () => setPrinting(false);
		window.addEventListener("beforeprint", begin);
		window.addEventListener("afterprint", end);
		return () => {
			window.removeEventListener("beforeprint", begin);
			window.removeEventListener("afterprint", end);
		};
	}, []);
	return printing;
}

/** The lines of the table: deals, or groups with those of their deals that aren't shut away. */
function useEntries(rows: readonly DealRow[], groups: readonly Group[] | null) {
	const [shut, setShut] = useState<ReadonlySet<string>>(new Set());
	const entries = useMemo<readonly Entry[]>(
		() =>
			groups
				? groups.flatMap((group): Entry[] => [{ group }, ...(shut.has(group.name) ? [] : group.rows.map((row) => ({ row })))])
				: rows.map((row) => ({ row })),
		[groups, rows, shut],
	);
	const toggle = (name: string) =>
		setShut((now) => {
			const next = new Set(now);
			if (!next.delete(name)) next.add(name);
			return next;
		});
	return { entries, shut, toggle };
}

/** The list a manager lives in: only the rows in view are drawn, so that ten thousand don't stutter. */
export function DealTable(props: Props) {
	const { rows, groups, frame, selected, current, mayMark, currency, onOpen, onEdit } = props;
	const scroller = useRef<HTMLDivElement>(null);
	const narrow = useNarrow();
	const top = useTop(scroller);
	const printing = usePrinting();
	const { entries, shut, toggle } = useEntries(rows, groups);
	const columns = narrow ? BESIDE_SHEET : props.sheetOpen ? props.columns.filter((key) => BESIDE_SHEET.includes(key)) : props.columns;
	const height = narrow ? ROW_NARROW : ROW;
	const view = useVirtualizer({
		count: entries.length,
		getScrollElement: () => scroller.current,
		estimateSize: (i) => ("group" in (entries[i] as Entry) ? GROUP : height),
		overscan: printing ? entries.length : 8,
		scrollPaddingStart: 40,
		initialRect: { width: 1280, height: 900 },
	});
	// biome-ignore lint/correctness/useExhaustiveDependencies: the sizes are asked again when rows get another height
	useEffect(() => view.measure(), [view, height, entries]);
	const at = current ? entries.findIndex((entry) => "row" in entry && entry.row.id === current) : -1;
	useEffect(() => {
		if (at >= 0) view.scrollToIndex(at, { align: "auto" });
	}, [at, view]);
	const span = useMemo(() => spanOf(frame), [frame]);
	const most = narrow || !props.sheetOpen ? 2 : 1;
	const setting = useMemo<CellSetting>(
		() => ({ currency, span, seen: frame.seen.day, most, onOpen, onEdit }),
		[currency, span, frame.seen.day, most, onOpen, onEdit],
	);
	const grid = useMemo(() => ({ gridTemplateColumns: `1rem ${columns.map((key) => columnOf(key)?.width ?? USUAL_WIDTH).join(" ")}` }), [columns]);
	const least = columns.reduce((sum, key) => sum + (columnOf(key)?.least ?? USUAL_LEAST) + 12, 60);

	return (
		<div className="deal-scroll" ref={scroller} style={narrow || top === null ? undefined : { maxHeight: `calc(100dvh - ${top + FOOT}px)` }}>
			<div
				className="deal-table"
				role="table"
				aria-label={`${props.status.charAt(0).toUpperCase()}${props.status.slice(1)} deals`}
				aria-rowcount={entries.length + 1}
				style={narrow || props.sheetOpen ? undefined : { minWidth: least }}
			>
				<HeadRow {...props} columns={columns} template={grid.gridTemplateColumns} />
				<div role="rowgroup" style={{ height: view.getTotalSize(), position: "relative" }}>
					{view.getVirtualItems().map((item) => {
						const entry = entries[item.index];
						if (!entry) return null;
						const place = { height: item.size, transform: `translateY(${item.start}px)` };
						if ("group" in entry) {
							const { group } = entry;
							return (
								<GroupLine
									key={`group ${group.name}`}
									group={group}
									index={item.index}
									place={place}
									currency={currency}
									open={!shut.has(group.name)}
									onToggle={() => toggle(group.name)}
								/>
							);
						}
						const { row } = entry;
						return (
							<DealLine
								key={row.id}
								row={row}
								index={item.index}
								start={item.start}
								height={item.size}
								columns={columns}
								template={grid.gridTemplateColumns}
								setting={setting}
								selected={selected.has(row.id)}
								here={row.id === current}
								mayMark={mayMark}
								narrow={narrow}
								onMark={props.onMark}
							/>
						);
					})}
				</div>
			</div>
		</div>
	);
}

function HeadRow({ rows, selected, columns, template, currency, sorts, mayMark, onSort, onMarkAll }: Props & { readonly template: string }) {
	const all = rows.length > 0 && rows.every((row) => selected.has(row.id));
	return (
		<div className="deal-row deal-head" role="row" aria-rowindex={1} style={{ gridTemplateColumns: template }}>
			<div role="columnheader" className="c-mark">
				{mayMark && (
					<Form.Check
						aria-label="Select all deals shown"
						checked={all}
						onChange={() =>
							onMarkAll(
								rows.map((row) => row.id),
								!all,
							)
						}
						ref={(box: HTMLInputElement | null) => {
							if (box) box.indeterminate = !all && selected.size > 0;
						}}
					/>
				)}
			</div>
			{columns.map((key) => (
				<HeadCell key={key} column={key} currency={currency} sorts={sorts} onSort={onSort} />
			))}
		</div>
	);
}

function HeadCell({ column: key, currency, sorts, onSort }: { column: string; currency: string; sorts: readonly Sort[]; onSort: Props["onSort"] }) {
	const column = columnOf(key);
	if (!column) return null;
	const place = sorts.findIndex((sort) => sort.key === key);
	const sort = sorts[place] ?? (sorts.length === 0 && key === "attention" ? { key, down: true } : undefined);
	const click = (more: boolean) => {
		const next: Sort = { key, down: sort && place >= 0 ? !sort.down : column.order === "descending" };
		if (!more) return onSort([next]);
		onSort(place >= 0 ? sorts.map((other, i) => (i === place ? next : other)) : [...sorts, next]);
	};
	const words = column.kind === "amount" ? `${column.words} ${currencySign(currency).trim()}` : column.words;
	return (
		<div role="columnheader" className={`c-${key} kind-${column.kind}`} aria-sort={sort ? (sort.down ? "descending" : "ascending") : undefined}>
			<button
				type="button"
				className="plain-button"
				title={[column.means && meaning(column.means), `Sort by ${column.words}; with Shift as a further sort.`].filter(Boolean).join(" ")}
				onClick={(event) => click(event.shiftKey)}
			>
				{words}
				{sort && (
					<span aria-hidden="true">
						{" "}
						{sort.down ? "↓" : "↑"}
						{sorts.length > 1 && <sup>{place + 1}</sup>}
					</span>
				)}
			</button>
		</div>
	);
}

interface GroupLineProps {
	readonly group: Group;
	readonly index: number;
	readonly place: { height: number; transform: string };
	readonly currency: string;
	readonly open: boolean;
	readonly onToggle: () => void;
}

function GroupLine({ group, index, place, currency, open, onToggle }: GroupLineProps) {
	return (
		<div role="row" aria-rowindex={index + 2} className="deal-group" style={place}>
			<div role="cell">
				<button type="button" className="plain-button" aria-expanded={open} onClick={onToggle}>
					<span aria-hidden="true">{open ? "▾" : "▸"}</span> <b>{group.name}</b>{" "}
					<span className="second">
						{group.rows.length} {byCount(group.rows.length, "deal", "deals")} · {shortMoney(group.amount, currency)} open ·{" "}
						{shortMoney(group.weighted, currency)} weighted
					</span>
				</button>
			</div>
		</div>
	);
}

interface LineProps {
	readonly row: DealRow;
	readonly index: number;
	readonly start: number;
	readonly height: number;
	readonly columns: readonly string[];
	readonly template: string;
	readonly setting: CellSetting;
	readonly selected: boolean;
	readonly here: boolean;
	readonly mayMark: boolean;
	readonly narrow: boolean;
	readonly onMark: (id: string) => void;
}

const DealLine = memo(function DealLine({ row, index, start, height, columns, template, setting, selected, here, mayMark, narrow, onMark }: LineProps) {
	return (
		<div
			role="row"
			aria-rowindex={index + 2}
			aria-selected={selected}
			className={`deal-row deal-line ${here ? "here" : ""} ${row.level}`}
			style={{ height, transform: `translateY(${start}px)`, ...(narrow ? {} : { gridTemplateColumns: template }) }}
			onClick={(event) => {
				if (!(event.target as HTMLElement).closest("button,input,a")) setting.onOpen(row.id);
			}}
		>
			<div role="cell" className="c-mark">
				{mayMark && <Form.Check aria-label={`Select ${row.name}, ${row.account}`} checked={selected} onChange={() => onMark(row.id)} />}
			</div>
			{columns.map((key) => (
				<div key={key} role="cell" className={`c-${key} kind-${columnOf(key)?.kind ?? "text"}`}>
					<DealCell column={key} row={row} setting={setting} />
				</div>
			))}
		</div>
	);
});
