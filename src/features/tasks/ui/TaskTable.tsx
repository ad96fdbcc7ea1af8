"use client";
import Link from "next/link";
import { useState } from "react";
import { Button } from "react-bootstrap";
import { RULES } from "@/core/flags/list";
import { nearDate } from "@/ui/format";
import { useNotice } from "@/ui/Notices";
import { useRun } from "@/ui/run";
import { useRefresh } from "@/ui/useAct";
import type { TaskRow } from "../server/readTasks";
import { DoneDialog } from "./DoneDialog";

/** Tasks, one a line. Done and dropped ask for a note and can be undone. */
export function TaskTable({
	rows,
	today,
	mayChange,
	own = false,
}: {
	rows: readonly TaskRow[];
	today: string;
	mayChange: (row: TaskRow) => boolean;
	own?: boolean;
}) {
	const [asked, setAsked] = useState<{ row: TaskRow; state: "done" | "dropped" } | null>(null);
	const run = useRun();
	const notice = useNotice();
	const refresh = useRefresh();
	const reopen = async (row: TaskRow) => {
		const done = await run("tasks.change", { id: row.id, state: "open", note: null });
		notice({ words: done.ok ? "The task is open again." : done.detail });
		refresh();
	};
	return (
		<div className="panel p-0 task-list">
			<table className="table">
				<thead>
					<tr>
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
					{rows.map((row) => (
						<tr key={row.id}>
							<td data-of="Task">
								<b>{row.title}</b>
								{row.flagsNow.length > 0 && (
									<span className="d-block tiny second">
										to clear{" "}
										{row.flagsNow
											.map(
												(flag) =>
													`${RULES.find((rule) => rule.code === flag.code)?.name ?? flag.code} (${row.dealClosed ? "deal closed" : flag.lit ? "still lit" : "out"})`,
											)
											.join(", ")}
									</span>
								)}
								{row.note && <span className="d-block small-text">“{row.note}”</span>}
							</td>
							<td data-of="Deal">
								{row.dealId ? <Link href={`/deals/${encodeURIComponent(row.dealId)}`}>{row.deal}</Link> : row.deal}
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
							</td>
							<td data-of="State" className="text-nowrap">
								{row.state === "open" ? "open" : `${row.state} ${nearDate(row.doneOn, today)}`}
								{row.state === "done" && row.dueOn && row.doneOn && <span className="d-block tiny second">{row.doneOn <= row.dueOn ? "on time" : "late"}</span>}
							</td>
							<td className="num no-print">
								{mayChange(row) &&
									(row.state === "open" ? (
										<>
											<Button
												size="sm"
												variant="outline-primary"
												aria-label={`Done: ${row.title}, ${row.deal}`}
												onClick={() => setAsked({ row, state: "done" })}
											>
												Done
											</Button>
											<Button size="sm" variant="link" aria-label={`Drop: ${row.title}, ${row.deal}`} onClick={() => setAsked({ row, state: "dropped" })}>
												Drop
											</Button>
										</>
									) : (
										<Button size="sm" variant="link" onClick={() => void reopen(row)}>
											Open again
										</Button>
									))}
							</td>
						</tr>
					))}
				</tbody>
			</table>
			{asked && <DoneDialog row={asked.row} state={asked.state} onClose={() => setAsked(null)} onUndo={() => reopen(asked.row)} />}
		</div>
	);
}
