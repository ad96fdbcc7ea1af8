"use client";
import { type KeyboardEvent, useState } from "react";
import { shortDate } from "@/ui/format";
import { useMay } from "@/ui/frame/may";
import { useRun } from "@/ui/run";
import { useAct } from "@/ui/useAct";
import type { TaskDays } from "../server/taskDays";
import type { TaskRow } from "../server/taskRows";

/** Moving tasks between days and people; each move can be undone. */
export function useMoving(view: TaskDays, span: "week" | "month", today: string) {
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
