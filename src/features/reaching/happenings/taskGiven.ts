import { personName } from "@/platform/names";
import { dayWords, dealAndAccount, type Found, happening, inBrackets, taskPath } from "./happening";

type TaskFacts = { by: string | null; title: string; deal: string | null; due: string | null };

/** Somebody was given a task by another, or it was handed over to them. */
export const taskGiven = happening({
	kind: "task-given",
	label: "I am given a task",
	usual: { onScreen: true, mail: "now" },
	many: ({ length }, by) => `${by ?? "The program"} gives you ${length} tasks`,
	find({ context: { organisation }, given, changes }) {
		const told = (personId: string, key: string, task: (typeof given)[number], by: string | null): Found<TaskFacts> => ({
			personId,
			key,
			dealId: task.dealId,
			byId: by,
			taskId: task.id,
			facts: { by: personName(organisation, by), title: task.title, deal: dealAndAccount(organisation, task.dealId), due: task.dueOn },
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
	say: ({ by, title, deal, due }) => `${by ?? "The program"} asks you: ${title}${inBrackets(deal)}${due ? `, due ${dayWords(due)}` : ""}`,
});
