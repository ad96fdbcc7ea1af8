import { personName } from "@/platform/names";
import { dealAndAccount, happening, inBrackets, taskPath } from "./happening";

/** A task that somebody gave comes back, with the reason. */
export const taskBack = happening({
	kind: "task-back",
	label: "a task is handed back to me",
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
							facts: { by: personName(organisation, byId), title: task.title, deal: dealAndAccount(organisation, task.dealId), why },
							path: taskPath(task.id, task.dealId),
						},
					]
				: [],
		),
	say: ({ by, title, deal, why }) => `${by ?? "Somebody"} hands back: ${title}${inBrackets(deal)}${why ? `. “${why}”` : ""}`,
});
