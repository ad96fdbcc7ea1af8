"use client";
import type { DragEvent, ReactNode } from "react";
import { plural } from "@/core/words/grammar";
import { shortDate } from "@/ui/format";
import type { TaskDays } from "../server/taskDays";
import type { TaskRow } from "../server/taskRows";

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
/** so many on one day are said to be many */
const MANY_A_DAY = 3;

type Cell = (day: string, person: string | null | undefined) => { onDragOver: (event: DragEvent) => void; onDrop: (event: DragEvent) => void };
interface GridProps {
	readonly view: TaskDays;
	readonly card: (row: TaskRow) => ReactNode;
	readonly cell: Cell;
}

/** Days that are worked on, and free ones that have something. */
const shownDays = (view: TaskDays) => view.days.filter(({ day, working }) => working || view.rows.some((row) => row.dueOn === day));

/** People by days, with what each has on each. */
export function Week({ view, card, cell }: GridProps) {
	const days = shownDays(view);
	return (
		<div className="days-scroll">
			<table className="table days-week">
				<thead>
					<tr>
						<th scope="col">Rep</th>
						{days.map(({ day, today, working }) => (
							<th key={day} scope="col" className={`${today ? "days-today" : ""} ${working ? "" : "third"}`}>
								{WEEKDAYS[(new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7]} {shortDate(day)}
							</th>
						))}
					</tr>
				</thead>
				<tbody>
					{view.people.map((person) => (
						<tr key={person.id ?? "anyone"}>
							<th scope="row">
								{person.name}
								<span className="d-block tiny second">
									{plural(
										person.load.reduce((sum, one) => sum + one, 0),
										"open task",
									)}
								</span>
							</th>
							{days.map(({ day, today }) => {
								const load = person.load[view.days.findIndex((one) => one.day === day)] ?? 0;
								return (
									<td key={day} className={today ? "days-today" : ""} {...cell(day, person.id)}>
										{load >= MANY_A_DAY && <span className="tiny worse">{load} on one day</span>}
										{view.rows.filter((row) => row.dueOn === day && row.assigneeId === person.id).map(card)}
									</td>
								);
							})}
						</tr>
					))}
				</tbody>
			</table>
		</div>
	);
}

/** Weeks by days. */
export function Month({ view, card, cell }: GridProps) {
	const weeks = Array.from({ length: Math.ceil(view.days.length / 7) }, (_, i) => view.days.slice(i * 7, i * 7 + 7));
	return (
		<div className="days-scroll">
			<table className="table days-month">
				<thead>
					<tr>
						{WEEKDAYS.map((name) => (
							<th key={name} scope="col">
								{name}
							</th>
						))}
					</tr>
				</thead>
				<tbody>
					{weeks.map((week) => (
						<tr key={week[0]?.day}>
							{week.map(({ day, today, working }) => {
								const own = view.rows.filter((row) => row.dueOn === day);
								return (
									<td key={day} className={`${today ? "days-today" : ""} ${working ? "" : "days-free"}`} {...cell(day, undefined)}>
										<span className="tiny second">
											{shortDate(day)}
											{own.length > 0 && ` · ${own.length}`}
										</span>
										{own.map(card)}
									</td>
								);
							})}
						</tr>
					))}
				</tbody>
			</table>
		</div>
	);
}
