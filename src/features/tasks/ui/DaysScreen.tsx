"use client";
import { parseAsString, useQueryState } from "nuqs";
import { type DragEvent, type KeyboardEvent, useState, useTransition } from "react";
import { Button } from "react-bootstrap";
import { plural } from "@/core/time/words";
import { shortDate } from "@/ui/format";
import { useMay } from "@/ui/frame/may";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TaskRow } from "../server/readTasks";
import type { TaskDays } from "../server/taskDays";
import { TaskDialog } from "./TaskDialog";
import "./tasks.css";

interface Props {
	readonly view: TaskDays;
	readonly span: "week" | "month";
	readonly title: string;
	/** the day that the span before and the one after are opened by, and today's */
	readonly before: string;
	readonly after: string;
	readonly today: string;
}

const WEEKDAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const MANY_A_DAY = 5;

/** Tasks on their days: a week person by person, or a month; moved between days and people by drag or by arrows. */
export function DaysScreen({ view, span, title, before, after, today }: Props) {
	const [waiting, start] = useTransition();
	const [, setAt] = useQueryState("at", parseAsString.withOptions({ shallow: false, history: "push", startTransition: start }));
	const [open, setOpen] = useQueryState("task", parseAsString.withOptions({ shallow: true, history: "push" }));
	const { put, keys, held, hold } = useMoving(view, span, today);
	const open_ = (id: string) => void setOpen(id);
	const card = (row: TaskRow) => (
		<Card
			key={row.id}
			row={row}
			who={span === "month"}
			held={held === row.id}
			onOpen={open_}
			onHold={hold}
			onKey={(event) => keys(event, row)}
			movable={row.state === "open"}
		/>
	);
	const cell = (day: string, person: string | null | undefined) => ({
		onDragOver: (event: DragEvent) => event.preventDefault(),
		onDrop: (event: DragEvent) => {
			event.preventDefault();
			const row = view.rows.find(({ id }) => id === event.dataTransfer.getData("text/plain"));
			if (row) put(row, day, person);
		},
	});
	return (
		<div className={waiting ? "waiting" : ""} aria-busy={waiting}>
			<div className="days-head">
				<h2>{title}</h2>
				<span className="no-print">
					<Button size="sm" variant="outline-primary" onClick={() => void setAt(before)}>
						Earlier
					</Button>{" "}
					<Button size="sm" variant="outline-primary" onClick={() => void setAt(null)}>
						Today
					</Button>{" "}
					<Button size="sm" variant="outline-primary" onClick={() => void setAt(after)}>
						Later
					</Button>
				</span>
				<span className="second small-text no-print">
					Drag a task to another day{span === "week" ? " or person" : ""}, or hold it with the focus and press the arrows.
				</span>
			</div>
			{view.before > 0 && (
				<p className="worse small-text">
					{plural(view.before, "open task")} {view.before === 1 ? "is" : "are"} due before these days.
				</p>
			)}
			{view.more > 0 && <p className="second small-text">{view.more} more tasks lie in these days; choose fewer people in the sentence above.</p>}
			{span === "week" ? <Week view={view} card={card} cell={cell} /> : <Month view={view} card={card} cell={cell} />}
			{!view.rows.length && <p className="panel second mt-3">No task is due in these days.</p>}
			{open && <TaskDialog id={open} today={today} onClose={() => void setOpen(null)} />}
		</div>
	);
}

type Cell = (day: string, person: string | null | undefined) => { onDragOver: (event: DragEvent) => void; onDrop: (event: DragEvent) => void };
interface GridProps {
	readonly view: TaskDays;
	readonly card: (row: TaskRow) => React.ReactNode;
	readonly cell: Cell;
}

/** Days that are worked on, and free ones that have something. */
const shownDays = (view: TaskDays) => view.days.filter(({ day, working }) => working || view.rows.some((row) => row.dueOn === day));

function Week({ view, card, cell }: GridProps) {
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

function Month({ view, card, cell }: GridProps) {
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

interface CardProps {
	readonly row: TaskRow;
	readonly who: boolean;
	readonly held: boolean;
	readonly movable: boolean;
	readonly onOpen: (id: string) => void;
	readonly onHold: (id: string | null) => void;
	readonly onKey: (event: KeyboardEvent) => void;
}

function Card({ row, who, held, movable, onOpen, onHold, onKey }: CardProps) {
	const state = row.overdue ? "overdue" : row.state;
	return (
		<button
			type="button"
			className={`day-card day-${state} ${held ? "day-held" : ""}`}
			data-card={row.id}
			draggable={movable}
			title={`${row.title}, ${row.deal}, ${row.assignee}${state === "open" ? "" : `, ${state}`}`}
			onDragStart={(event) => {
				event.dataTransfer.setData("text/plain", row.id);
				event.dataTransfer.effectAllowed = "move";
			}}
			onFocus={() => onHold(row.id)}
			onBlur={() => onHold(null)}
			onKeyDown={onKey}
			onClick={() => onOpen(row.id)}
		>
			<span className="day-card-title">{row.title}</span>
			<span className="tiny second d-block text-truncate">
				{row.dealId ? row.deal : ""}
				{who && ` ${row.dealId ? "· " : ""}${row.assignee}`}
				{state !== "open" && ` · ${state}`}
			</span>
		</button>
	);
}

/** Moving tasks between days and people; each move can be undone. */
function useMoving(view: TaskDays, span: "week" | "month", today: string) {
	const [held, hold] = useState<string | null>(null);
	const run = useRun();
	const act = useAct();
	const may = useMay("changeTask");
	const put = (row: TaskRow, day: string, person: string | null | undefined) => {
		const other = person !== undefined && person !== null && person !== row.assigneeId;
		if (!may || row.state !== "open" || (day === row.dueOn && !other)) return;
		const name = view.people.find(({ id }) => id === person)?.name;
		void act(
			run("tasks.changeMany", { ids: [row.id], ...(day === row.dueOn ? {} : { dueOn: day }), ...(other ? { assigneeId: person } : {}) }),
			`${row.title}: ${shortDate(day)}${other ? `, ${name}` : ""}.`,
			({ changes }) => run("tasks.undoChanges", { changes: [...changes] }),
		).then(() => setTimeout(() => document.querySelector<HTMLElement>(`[data-card="${CSS.escape(row.id)}"]`)?.focus(), 400));
	};
	const keys = (event: KeyboardEvent, row: TaskRow) => {
		const steps: Record<string, [days: number, people: number]> =
			span === "week"
				? { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
				: { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [-7, 0], ArrowDown: [7, 0] };
		const step = steps[event.key];
		if (!step || !row.dueOn) return;
		event.preventDefault();
		const [days, people] = step;
		if (people) {
			const at = view.people.findIndex(({ id }) => id === row.assigneeId);
			const next = view.people[at + people];
			if (next?.id) put(row, row.dueOn, next.id);
			return;
		}
		// Onto the next day that is worked on; a week up or down to the same day of it.
		let at = view.days.findIndex(({ day }) => day === row.dueOn) + days;
		while (Math.abs(days) === 1 && view.days[at] && !view.days[at]?.working) at += days;
		const next = view.days[at];
		if (next && next.day >= today) put(row, next.day, undefined);
	};
	return { put, keys, held, hold };
}
