import { personName } from "@/platform/names";
import { happening, onDeal, taskPath } from "./happening";

/** A task that somebody gave comes back, with the reason. */
export const taskBack = happening({
	kind: "task-back",
	words: "a task is handed back to me",
	usual: { onScreen: true, mail: "digest" },
	find: ({ context: { organisation }, changes }) =>
		changes.flatMap(({ id, what, byId, why, task }) =>
			what === "handed back" && task.assigneeId
				? [
						{
							personId: task.assigneeId,
							key: `${task.id} ${id}`,
							dealId: task.dealId,
							taskId: task.id,
							words: `${personName(organisation, byId) ?? "Somebody"} hands back: ${task.title}${onDeal(organisation, task.dealId)}${why ? `. “${why}”` : ""}`,
							path: taskPath(task.id, task.dealId),
						},
					]
				: [],
		),
});
