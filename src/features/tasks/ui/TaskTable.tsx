"use client";
import Link from "next/link";
import { type ReactNode, useState } from "react";
import { Button } from "react-bootstrap";
import { RULES } from "@/core/flags/list";
import type { OutcomeState } from "@/core/tasks/outcome";
import { byCount } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import type { TableColumn, TableSection } from "@/ui/parts/table/column";
import { DataTable } from "@/ui/parts/table/DataTable";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import type { TaskRow } from "../server/taskRows";
import { TaskDialog } from "./TaskDialog";

const BECAME: Readonly<Record<OutcomeState, string>> = {
	not_lit: "flag wasn’t on",
	closed: "deal closed",
	out: "cleared",
	lit: "still lit",
	early: "too early to tell",
};

interface Props {
	readonly rows: readonly TaskRow[];
	/** names the table where a screen has several */
	readonly of?: string;
	readonly today: string;
	readonly mayChange: (row: TaskRow) => boolean;
	/** one's own: whose they are needn't be said */
	readonly own?: boolean;
	/** headings before some of the rows, by the place of the row */
	readonly headings?: ReadonlyMap<number, ReactNode>;
	/** marked rows; none: rows can't be marked */
	readonly marked?: ReadonlySet<string>;
	readonly onMark?: (ids: readonly string[], on: boolean) => void;
	/** the row that the keys are at */
	readonly here?: string | null;
	readonly opened?: string | null;
	readonly onOpen?: (id: string | null) => void;
}

/** Tasks, one a line. A press on its title opens a task whole. */
export function TaskTable({ of = "Tasks", rows, today, mayChange, own = false, headings, marked, onMark, here = null, opened, onOpen }: Props) {
	const [openHere, setOpenHere] = useState<string | null>(null);
	const open = onOpen ? (opened ?? null) : openHere;
	const setOpen = onOpen ?? setOpenHere;
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const reopen = async (row: TaskRow) => {
		const done = await run("tasks.change", { id: row.id, state: "open", note: null });
		notice({ words: done.ok ? "Task reopened." : done.detail });
		refresh();
	};
	return (
		<>
			<DataTable
				of={of}
				className="panel p-0 task-list"
				tableClass=""
				rows={rows}
				{...(headings ? { sections: sectionsOf(rows, headings) } : {})}
				rowKey={({ id }) => id}
				rowClass={({ id }) => (id === here ? "here" : undefined)}
				rowData={({ id }) => ({ "data-task": id })}
				{...(marked && onMark ? { marks: { marked, onMark } } : {})}
				markWords={({ title, deal }) => `Select: ${title}, ${deal}`}
				columns={columnsOf({ own, today, mayChange, onOpen: setOpen, onReopen: (row) => void reopen(row) })}
			/>
			{open && <TaskDialog id={open} today={today} onClose={() => setOpen(null)} />}
		</>
	);
}

/** The rows from each heading’s place to the next one’s. */
function sectionsOf(rows: readonly TaskRow[], headings: ReadonlyMap<number, ReactNode>): TableSection<TaskRow>[] {
	const places = [...headings.keys()].sort((a, b) => a - b);
	return places.map((place, i) => ({ key: String(place), heading: headings.get(place), rows: rows.slice(place, places[i + 1] ?? rows.length) }));
}

interface Given {
	readonly own: boolean;
	readonly today: string;
	readonly mayChange: (row: TaskRow) => boolean;
	readonly onOpen: (id: string) => void;
	readonly onReopen: (row: TaskRow) => void;
}

function columnsOf({ own, today, mayChange, onOpen, onReopen }: Given): (TableColumn<TaskRow> | false)[] {
	return [
		{ key: "task", label: "Task", by: ({ title }) => title, cell: (row) => <TaskCell row={row} onOpen={onOpen} /> },
		{
			key: "deal",
			label: "Deal",
			by: ({ deal }) => deal,
			cell: ({ dealId, accountId, deal, account }) => (
				<>
					{dealId ? <Link href={`/deals/${encodeURIComponent(dealId)}`}>{deal}</Link> : <span className="second">{deal}</span>}
					<span className="d-block tiny second">{accountId ? <Link href={`/accounts/${encodeURIComponent(accountId)}`}>{account}</Link> : account}</span>
				</>
			),
		},
		!own && {
			key: "who",
			label: "Who",
			className: "text-nowrap",
			by: ({ assignee }) => assignee,
			cell: ({ assignee, givenBy }) => (
				<>
					{assignee}
					{givenBy && givenBy !== assignee && <span className="d-block tiny second">from {givenBy}</span>}
				</>
			),
		},
		!own && { key: "given", label: "Given", className: "text-nowrap", by: ({ givenOn }) => givenOn, cell: ({ givenOn }) => nearDate(givenOn, today) },
		{ key: "due", label: "Due", className: "text-nowrap", by: ({ dueOn }) => dueOn, cell: (row) => <DueCell row={row} today={today} /> },
		{
			key: "state",
			label: "State",
			className: "text-nowrap",
			by: ({ state, doneOn }) => `${state} ${doneOn ?? ""}`,
			cell: ({ state, doneOn, dueOn }) => (
				<>
					{state === "open" ? "open" : `${state} ${nearDate(doneOn, today)}`}
					{state === "done" && dueOn && doneOn && <span className="d-block tiny second">{doneOn <= dueOn ? "on time" : "late"}</span>}
				</>
			),
		},
		{
			key: "change",
			label: "Change",
			silent: true,
			num: true,
			className: "no-print text-nowrap",
			cell: (row) =>
				mayChange(row) &&
				(row.state === "open" ? (
					<Button size="sm" variant="outline-primary" aria-label={`Done: ${row.title}, ${row.deal}`} onClick={() => onOpen(row.id)}>
						{row.assigneeId === null ? "Take …" : "Done …"}
					</Button>
				) : (
					<Button size="sm" variant="link" onClick={() => onReopen(row)}>
						Reopen
					</Button>
				)),
		},
	];
}

function TaskCell({ row, onOpen }: { row: TaskRow; onOpen: (id: string) => void }) {
	return (
		<>
			<button type="button" className="plain-button text-start" onClick={() => onOpen(row.id)}>
				<b>{row.title}</b>
			</button>
			{row.importance === "high" && <span className="task-important"> important</span>}
			<FlagsOf row={row} />
			{row.checklist.length > 0 && (
				<span className="d-block tiny second">
					{row.checklist.filter(({ done }) => done).length} of {row.checklist.length} on its list
				</span>
			)}
			{row.note && <span className="d-block small-text">“{row.note}”</span>}
		</>
	);
}

function DueCell({ row, today }: { row: TaskRow; today: string }) {
	return (
		<>
			{nearDate(row.dueOn, today)}
			{row.overdue && <b className="worse d-block tiny">overdue</b>}
			{row.close && row.dueOn && row.state === "open" && row.close < row.dueOn && (
				<span className="d-block tiny worse">after the close, {nearDate(row.close, today)}</span>
			)}
			{row.moves.times > 0 && (
				<span className="d-block tiny second">
					moved {byCount(row.moves.times, "once", `${row.moves.times} times`)}, {row.moves.workingDays} d
				</span>
			)}
		</>
	);
}

function FlagsOf({ row }: { row: TaskRow }) {
	if (!row.flags.length) return null;
	const nameOf = (code: string) => RULES.find((rule) => rule.code === code)?.name ?? code;
	const words = row.outcomes.map(({ flag, state }) => `${nameOf(flag)} (${BECAME[state]})`);
	return <span className="d-block tiny second">to clear {words.join(", ")}</span>;
}
