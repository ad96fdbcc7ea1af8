import { formatDay } from "@/core/time/day";
import { happening, taskPath } from "./happening";

/** A task of somebody's wasn't done by its day. */
export const taskOverdue = happening({
	kind: "task-overdue",
	words: "a task of mine is overdue",
	usual: { onScreen: true, mail: "now" },
	find: ({ open, today }) =>
		open.flatMap(({ id, assigneeId, dueOn, dealId, title }) =>
			assigneeId && dueOn && dueOn < formatDay(today)
				? [{ personId: assigneeId, key: `${id} ${dueOn}`, dealId, taskId: id, words: `Overdue since ${dueOn}: ${title}`, path: taskPath(id, dealId) }]
				: [],
		),
});
