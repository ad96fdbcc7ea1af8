"use client";
import { useVirtualizer } from "@tanstack/react-virtual";
import Link from "next/link";
import { type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { dayNumber } from "@/ui/format";
import { useAddress } from "@/ui/frame/address";
import type { FrameView } from "@/ui/frame/view";
import { ROWS_AT_FIRST, useInBrowser } from "@/ui/inBrowser";
import type { TrailSpan } from "@/ui/parts/Trail";
import { COLUMNS, columnOf } from "../columns";
import type { CellSetting } from "../columns/column";
import type { Group } from "../table/groups";
import type { DealRow } from "../table/row";
import { HeadRow } from "./DealTableHead";
import { DealLine, GroupLine } from "./DealTableLines";
import type { DealTableProps } from "./dealTableProps";
import { useNarrow, usePrinting, useTop } from "./useTableRoom";

type Entry = { readonly group: Group } | { readonly row: DealRow };

const ROW = 50;
const ROW_NARROW = 104;
const GROUP = 34;
/** what stands below the table: the totals and the page’s edge */
const FOOT = 70;
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

/** Which lines are in view, and where each stands; the current one is kept in view. */
function useRows(
	scroller: RefObject<HTMLDivElement | null>,
	entries: readonly Entry[],
	{ height, all, current }: { height: number; all: boolean; current: string | null },
) {
	const inBrowser = useInBrowser();
	const view = useVirtualizer({
		count: entries.length,
		getScrollElement: () => scroller.current,
		estimateSize: (i) => ("group" in (entries[i] as Entry) ? GROUP : height),
		overscan: all ? entries.length : inBrowser ? 8 : 0,
		scrollPaddingStart: 40,
		initialRect: { width: 1280, height: ROWS_AT_FIRST * ROW },
	});
	// biome-ignore lint/correctness/useExhaustiveDependencies: the sizes are asked again when rows get another height
	useEffect(() => view.measure(), [view, height, entries]);
	const at = current ? entries.findIndex((entry) => "row" in entry && entry.row.id === current) : -1;
	useEffect(() => {
		if (at >= 0) view.scrollToIndex(at, { align: "auto" });
	}, [at, view]);
	return view;
}

/** The list a manager lives in: only the rows in view are drawn, so that ten thousand don't stutter. */
export function DealTable(props: DealTableProps) {
	// Long: the table’s room and what is drawn in it hang together.
	const address = useAddress();
	const { rows, groups, frame, selected, current, mayMark, currency, onOpen, onEdit } = props;
	const scroller = useRef<HTMLDivElement>(null);
	const narrow = useNarrow();
	const top = useTop(scroller);
	const printing = usePrinting();
	const { entries, shut, toggle } = useEntries(rows, groups);
	const columns = narrow ? BESIDE_SHEET : props.sheetOpen ? props.columns.filter((key) => BESIDE_SHEET.includes(key)) : props.columns;
	const view = useRows(scroller, entries, { height: narrow ? ROW_NARROW : ROW, all: printing, current });
	const span = useMemo(() => spanOf(frame), [frame]);
	const most = narrow || !props.sheetOpen ? 2 : 1;
	const setting = useMemo<CellSetting>(
		() => ({
			...{ currency, span, seen: frame.seen.day, most, onOpen, onEdit },
			link: (path, words) => (
				// Hundreds of rows are drawn: none is fetched before it is asked for.
				<Link href={address(path)} prefetch={false}>
					{words}
				</Link>
			),
		}),
		[currency, span, frame.seen.day, most, onOpen, onEdit, address],
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
