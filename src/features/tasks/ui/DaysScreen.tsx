"use client";
import { parseAsString, useQueryState } from "nuqs";
import { type DragEvent, useTransition } from "react";
import { Button } from "react-bootstrap";
import { byCount, plural } from "@/core/words/grammar";
import type { TaskDays } from "../server/taskDays";
import type { TaskRow } from "../server/taskRows";
import { DayCard } from "./DayCard";
import { Month, Week } from "./DayGrids";
import { TaskDialog } from "./TaskDialog";
import { useMoving } from "./useMoving";
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

/** Tasks on their days: a week person by person, or a month; moved between days and people by drag or by arrows. */
export function DaysScreen({ view, span, title, before, after, today }: Props) {
	const [waiting, start] = useTransition();
	const [, setAt] = useQueryState("at", parseAsString.withOptions({ shallow: false, history: "push", startTransition: start }));
	const [open, setOpen] = useQueryState("task", parseAsString.withOptions({ shallow: true, history: "push" }));
	const { put, keys, held, hold } = useMoving(view, span, today);
	const show = (id: string) => void setOpen(id);
	const card = (row: TaskRow) => (
		<DayCard
			key={row.id}
			row={row}
			who={span === "month"}
			held={held === row.id}
			onOpen={show}
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
					{plural(view.before, "open task")} {byCount(view.before, "is", "are")} due before these days.
				</p>
			)}
			{view.more > 0 && <p className="second small-text">{view.more} more tasks lie in these days; choose fewer people in the sentence above.</p>}
			{span === "week" ? <Week view={view} card={card} cell={cell} /> : <Month view={view} card={card} cell={cell} />}
			{!view.rows.length && <p className="panel second mt-3">No task is due in these days.</p>}
			{open && <TaskDialog id={open} today={today} onClose={() => void setOpen(null)} />}
		</div>
	);
}
