"use client";
import Link from "next/link";
import { Fragment, type ReactNode, useEffect, useState } from "react";
import { Button, Form } from "react-bootstrap";
import { RULES } from "@/core/flags/list";
import type { OutcomeState } from "@/core/tasks/outcome";
import { byCount } from "@/core/words/grammar";
import { nearDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { Scrolls } from "@/ui/parts/Scrolls";
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

const AT_FIRST = 60;

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
	// The server writes what fills the screen; the rest of a long list is drawn in the browser.
	const [whole, setWhole] = useState(rows.length <= AT_FIRST);
	useEffect(() => setWhole(true), []);
	const columns = (own ? 5 : 7) + (marked ? 1 : 0);
	return (
		<Scrolls of={of} className="panel p-0 task-list">
			<table className="table">
				<thead>
					<tr>
						{marked && (
							<th>
								<Form.Check
									aria-label="Select all tasks"
									checked={rows.length > 0 && rows.every(({ id }) => marked.has(id))}
									onChange={(event) =>
										onMark?.(
											rows.map(({ id }) => id),
											event.target.checked,
										)
									}
								/>
							</th>
						)}
						<th>Task</th>
						<th>Deal</th>
						{!own && (
							<>
								<th>Who</th>
								<th>Given</th>
							</>
						)}
						<th>Due</th>
						<th>State</th>
						<th>
							<span className="visually-hidden">Change</span>
						</th>
					</tr>
				</thead>
				<tbody>
					{(whole ? rows : rows.slice(0, AT_FIRST)).map((row, i) => (
						<Fragment key={row.id}>
							{headings?.has(i) && (
								<tr className="task-group">
									<th colSpan={columns} scope="rowgroup">
										{headings.get(i)}
									</th>
								</tr>
							)}
							<tr className={row.id === here ? "here" : ""} data-task={row.id}>
								{marked && (
									<td data-of="Mark">
										<Form.Check
											aria-label={`Select: ${row.title}, ${row.deal}`}
											checked={marked.has(row.id)}
											onChange={(event) => onMark?.([row.id], event.target.checked)}
										/>
									</td>
								)}
								<td data-of="Task">
									<button type="button" className="plain-button text-start" onClick={() => setOpen(row.id)}>
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
								</td>
								<td data-of="Deal">
									{row.dealId ? <Link href={`/deals/${encodeURIComponent(row.dealId)}`}>{row.deal}</Link> : <span className="second">{row.deal}</span>}
									<span className="d-block tiny second">{row.account}</span>
								</td>
								{!own && (
									<td data-of="Who" className="text-nowrap">
										{row.assignee}
										{row.givenBy && row.givenBy !== row.assignee && <span className="d-block tiny second">from {row.givenBy}</span>}
									</td>
								)}
								{!own && (
									<td data-of="Given" className="text-nowrap">
										{nearDate(row.givenOn, today)}
									</td>
								)}
								<td data-of="Due" className="text-nowrap">
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
								</td>
								<td data-of="State" className="text-nowrap">
									{row.state === "open" ? "open" : `${row.state} ${nearDate(row.doneOn, today)}`}
									{row.state === "done" && row.dueOn && row.doneOn && (
										<span className="d-block tiny second">{row.doneOn <= row.dueOn ? "on time" : "late"}</span>
									)}
								</td>
								<td className="num no-print text-nowrap">
									{mayChange(row) &&
										(row.state === "open" ? (
											<Button size="sm" variant="outline-primary" aria-label={`Done: ${row.title}, ${row.deal}`} onClick={() => setOpen(row.id)}>
												{row.assigneeId === null ? "Take …" : "Done …"}
											</Button>
										) : (
											<Button size="sm" variant="link" onClick={() => void reopen(row)}>
												Reopen
											</Button>
										))}
								</td>
							</tr>
						</Fragment>
					))}
				</tbody>
			</table>
			{open && <TaskDialog id={open} today={today} onClose={() => setOpen(null)} />}
		</Scrolls>
	);
}

function FlagsOf({ row }: { row: TaskRow }) {
	if (!row.flags.length) return null;
	const nameOf = (code: string) => RULES.find((rule) => rule.code === code)?.name ?? code;
	const words = row.outcomes.map(({ flag, state }) => `${nameOf(flag)} (${BECAME[state]})`);
	return <span className="d-block tiny second">to clear {words.join(", ")}</span>;
}
