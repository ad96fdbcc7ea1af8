"use client";
import { type ColumnDef, getCoreRowModel, useReactTable } from "@tanstack/react-table";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { Form } from "react-bootstrap";
import type { Light } from "@/core/attention/attention";
import type { DealRow } from "@/usecases/readDeals";
import { change, currencySign, dayNumber, wholeAmount } from "../../format";
import { Evidence, StageBar } from "../../parts/Bars";
import { FlagChip } from "../../parts/FlagChip";
import { Lamp } from "../../parts/Lamp";
import { Trail, type TrailSpan } from "../../parts/Trail";
import type { FrameView } from "../frame/view";
import type { SortKey } from "./sorts";

interface Props {
	readonly rows: readonly DealRow[];
	readonly currency: string;
	readonly frame: FrameView["sentence"];
	readonly selected: ReadonlySet<string>;
	readonly current: string | null;
	readonly sheetOpen: boolean;
	readonly mayAssign: boolean;
	readonly sort: SortKey;
	readonly onSort: (key: SortKey) => void;
	readonly onOpen: (id: string) => void;
	readonly onMark: (id: string) => void;
	readonly onMarkAll: (on: boolean) => void;
}

const ROW = 50;
const ROW_NARROW = 104;
const NARROW = "(max-width: 800px)";

/** Trails share a span around the period, or around the seen day where the period is open-ended. */
function spanOf(frame: FrameView["sentence"]): TrailSpan {
	const seen = dayNumber(frame.seen.day);
	const end = frame.due.end && frame.due.end < "9000" ? dayNumber(frame.due.end) : null;
	const start = frame.due.start && frame.due.start > "1000" ? dayNumber(frame.due.start) : null;
	return { from: (start ?? seen) - 92, to: (end ?? seen + 150) + 31, end };
}

/** The list a manager lives in: only the rows in view are drawn, so that thousands don't stutter. */
export function DealTable(props: Props) {
	const { rows, frame, selected, current, mayAssign, currency } = props;
	const columns = useMemo<ColumnDef<DealRow>[]>(() => COLUMNS.map((column) => ({ id: column.key, header: column.words })), []);
	const table = useReactTable({ data: rows as DealRow[], columns, getCoreRowModel: getCoreRowModel(), getRowId: (row) => row.id });
	const list = useRef<HTMLDivElement>(null);
	const [top, setTop] = useState(0);
	const [narrow, setNarrow] = useState(false);
	useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0));
	useEffect(() => {
		const media = window.matchMedia(NARROW);
		const follow = () => setNarrow(media.matches);
		follow();
		media.addEventListener("change", follow);
		return () => media.removeEventListener("change", follow);
	}, []);
	const height = narrow ? ROW_NARROW : ROW;
	const model = table.getRowModel().rows;
	const view = useWindowVirtualizer({
		count: model.length,
		estimateSize: () => height,
		overscan: 12,
		scrollMargin: top,
		scrollPaddingStart: 48,
		scrollPaddingEnd: 64,
		initialRect: { width: 1280, height: 900 },
	});
	// biome-ignore lint/correctness/useExhaustiveDependencies: the sizes are asked again when rows get another height
	useEffect(() => view.measure(), [view, height]);
	const at = current ? rows.findIndex((row) => row.id === current) : -1;
	useEffect(() => {
		// Before the list has been laid out its place isn't known, and scrolling would jump.
		if (at >= 0 && top > 0) view.scrollToIndex(at, { align: "auto" });
	}, [at, view, top]);
	const span = useMemo(() => spanOf(frame), [frame]);
	const all = rows.length > 0 && rows.every((row) => selected.has(row.id));

	return (
		<div className="deal-table" role="table" aria-label="Open deals" aria-rowcount={rows.length + 1}>
			<div className="deal-row deal-head" role="row" aria-rowindex={1}>
				<div role="columnheader" className="c-mark">
					{mayAssign && (
						<Form.Check
							aria-label="Select all deals shown"
							checked={all}
							onChange={() => props.onMarkAll(!all)}
							ref={(box: HTMLInputElement | null) => {
								if (box) box.indeterminate = !all && selected.size > 0;
							}}
						/>
					)}
				</div>
				{COLUMNS.map((column) => (
					<div
						key={column.key}
						role="columnheader"
						className={`c-${column.key}`}
						aria-sort={column.sort && column.sort === props.sort ? column.order : undefined}
					>
						{column.sort ? (
							<button type="button" className="plain-button" title={`Sort by ${column.words}`} onClick={() => props.onSort(column.sort as SortKey)}>
								{column.key === "amount" ? `${column.words} ${currencySign(currency).trim()}` : column.words}
								{column.sort === props.sort && <span aria-hidden="true"> {column.order === "ascending" ? "↑" : "↓"}</span>}
							</button>
						) : (
							column.words
						)}
					</div>
				))}
			</div>
			<div ref={list} role="rowgroup" style={{ height: view.getTotalSize(), position: "relative" }}>
				{view.getVirtualItems().map((item) => {
					const row = model[item.index]?.original;
					return row ? (
						<DealLine
							key={row.id}
							row={row}
							index={item.index}
							offset={item.start - top}
							height={height}
							span={span}
							currency={currency}
							selected={selected.has(row.id)}
							here={row.id === current}
							mayAssign={mayAssign}
							most={narrow || !props.sheetOpen ? 3 : 1}
							onOpen={props.onOpen}
							onMark={props.onMark}
						/>
					) : null;
				})}
			</div>
		</div>
	);
}

const COLUMNS = [
	{ key: "lamp", words: "Need", sort: "attention", order: "descending" },
	{ key: "name", words: "Deal", sort: "name", order: "ascending" },
	{ key: "rep", words: "Rep", sort: "owner", order: "ascending" },
	{ key: "stage", words: "Stage · days in it", sort: "stage", order: "descending" },
	{ key: "amount", words: "Amount", sort: "amount", order: "descending" },
	{ key: "trail", words: "Close date trail", sort: "close", order: "ascending" },
	{ key: "evidence", words: "Evidence", sort: "evidence", order: "ascending" },
	{ key: "flags", words: "Flags", sort: null, order: undefined },
] as const;

interface LineProps {
	readonly row: DealRow;
	readonly index: number;
	readonly offset: number;
	readonly height: number;
	readonly span: TrailSpan;
	readonly currency: string;
	readonly selected: boolean;
	readonly here: boolean;
	readonly mayAssign: boolean;
	/** how many flags there is room for */
	readonly most: number;
	readonly onOpen: (id: string) => void;
	readonly onMark: (id: string) => void;
}

/** The flags there is room for, and how many more there are. */
function Flags({ row, most }: { row: DealRow; most: number }) {
	const rest = row.flags.slice(most);
	return (
		<div role="cell" className="c-flags">
			{row.flags.slice(0, most).map((flag) => (
				<FlagChip key={flag.code} {...flag} />
			))}
			{rest.length > 0 && (
				<span className="chip chip-more" title={rest.map((flag) => flag.label).join(", ")}>
					+{rest.length}
					<span className="visually-hidden"> more flags: {rest.map((flag) => flag.label).join(", ")}</span>
				</span>
			)}
		</div>
	);
}

const DealLine = memo(function DealLine({ row, index, offset, height, span, currency, selected, here, mayAssign, most, onOpen, onMark }: LineProps) {
	return (
		<div
			role="row"
			aria-rowindex={index + 2}
			aria-selected={selected}
			className={`deal-row deal-line ${here ? "here" : ""} ${row.level}`}
			style={{ height, transform: `translateY(${offset}px)` }}
			onClick={(event) => {
				if (!(event.target as HTMLElement).closest("button,input,a")) onOpen(row.id);
			}}
		>
			<div role="cell" className="c-mark">
				{mayAssign && <Form.Check aria-label={`Select ${row.name}, ${row.account}`} checked={selected} onChange={() => onMark(row.id)} />}
			</div>
			<div role="cell" className="c-lamp" title={`Attention ${row.score} of 100: ${row.level}`}>
				<Lamp level={row.level as Light} />
				<span className="tiny second">{row.score}</span>
			</div>
			<div role="cell" className="c-name">
				<button type="button" className="plain-button deal-name" title={row.name} onClick={() => onOpen(row.id)}>
					{row.name}
				</button>
				<span className="deal-account" title={row.account}>
					{row.account}
				</span>
			</div>
			<div role="cell" className="c-rep" title={row.ownerActive ? row.owner : `${row.owner} no longer works here`}>
				{row.owner.split(" ")[0]}
				{!row.ownerActive && <span className="tiny second d-block">{row.ownerId ? "has left" : ""}</span>}
			</div>
			<div role="cell" className="c-stage">
				<span className="text-truncate">{row.stage}</span>
				<span className="stage-days">
					<StageBar days={row.stageAge} usual={row.usual} limit={row.usualLimit} stage={row.stage} width={66} />
					<span className="tiny second">{row.stageAge} d</span>
				</span>
			</div>
			<div role="cell" className="c-amount">
				<span>{row.amountBlank ? "blank" : wholeAmount(row.amount, currency)}</span>
				{row.change === null ? (
					<span className="tiny gained">new</span>
				) : (
					row.change !== 0 && <span className={`tiny ${row.change > 0 ? "gained" : "worse"}`}>{change(row.change, currency)}</span>
				)}
			</div>
			<div role="cell" className="c-trail">
				<Trail points={row.trail} span={span} width={108} />
			</div>
			<div role="cell" className="c-evidence">
				<Evidence strength={row.strength} coverage={row.coverage} expected={row.expected} width={74} />
				<span className="tiny second">
					{row.strength} of {row.expected} expected
				</span>
			</div>
			<Flags row={row} most={most} />
		</div>
	);
});
