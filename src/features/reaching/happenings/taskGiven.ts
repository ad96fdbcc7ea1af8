import { parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { personName } from "@/platform/names";
import { type Found, happening, onDeal, taskPath } from "./happening";

/** Somebody was given a task by another, or it was handed over to them. */
export const taskGiven = happening({
	kind: "task-given",
	words: "I am given a task",
	usual: { onScreen: true, mail: "now" },
	many: ({ length }, by) => `${by ?? "The program"} gives you ${length} tasks`,
	find({ context: { organisation }, given, changes }) {
		const due = (dueOn: string | null) => (dueOn ? `, due ${shortDay(parseDay(dueOn) ?? 0)}` : "");
		const told = (personId: string, key: string, task: (typeof given)[number], by: string | null): Found => ({
			personId,
			key,
			dealId: task.dealId,
			byId: by,
			taskId: task.id,
			words: `${personName(organisation, by) ?? "The program"} asks you: ${task.title}${onDeal(organisation, task.dealId)}${due(task.dueOn)}`,
			path: taskPath(task.id, task.dealId),
		});
		const fresh = given.flatMap((task) =>
			task.assigneeId && task.assigneeId !== task.createdById ? [told(task.assigneeId, task.id, task, task.createdById)] : [],
		);
		const over = changes.flatMap(({ id, what, byId, task }) =>
			what === "handed over" && task.assigneeId && task.assigneeId !== byId ? [told(task.assigneeId, `${task.id} ${id}`, task, byId)] : [],
		);
		return [...fresh, ...over];
	},
});
