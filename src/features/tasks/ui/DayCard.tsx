"use client";
import type { KeyboardEvent } from "react";
import type { TaskRow } from "../server/taskRows";

interface CardProps {
	readonly row: TaskRow;
	readonly who: boolean;
	readonly held: boolean;
	readonly movable: boolean;
	readonly onOpen: (id: string) => void;
	readonly onHold: (id: string | null) => void;
	readonly onKey: (event: KeyboardEvent) => void;
}

/** A task on its day: pressed it opens, dragged or by arrows it moves. */
export function DayCard({ row, who, held, movable, onOpen, onHold, onKey }: CardProps) {
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
