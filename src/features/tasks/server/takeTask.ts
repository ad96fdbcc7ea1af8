import { z } from "zod";
import { command } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { heldTask, recordTaskChange, taskChange, touchedBy } from "./recordChange";
import { taskJson } from "./taskJson";

/** Takes a task that anyone of a team may take. Of two who press at once the second is told who was first. */
export const takeTask = command({
	name: "tasks.take",
	right: "changeTask",
	input: z.object({ id: idSchema }),
	async run({ context, input, tx }) {
		const { organisation, now, actor } = context;
		// Who could have taken it is told who was first.
		const task = await heldTask(tx, context, input.id, "could take it");
		if (task.team === null) throw new Fault(409, "Not a team’s task", "This task was given to a person; only tasks given to a team can be taken.");
		if (task.assigneeId !== null) {
			const who = organisation.people.find(({ id }) => id === task.assigneeId)?.name ?? "Somebody";
			throw new Fault(409, "Already taken", task.assigneeId === actor.person.id ? "You already have it." : `${who} took it a moment ago.`);
		}
		if (task.state !== "open") throw new Fault(409, "Already settled", `This task was marked ${task.state} in the meantime.`);
		const { task: changed, change } = await recordTaskChange(tx, context, task, "taken", { assigneeId: actor.person.id });
		return {
			result: { ...taskJson(context, changed, now.day), change },
			touched: touchedBy([changed]),
			audit: { action: "task taken", subject: task.id, detail: taskChange(task, changed) },
		};
	},
});
