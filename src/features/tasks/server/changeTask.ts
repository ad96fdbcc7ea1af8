import { eq } from "drizzle-orm";
import { z } from "zod";
import { TASK_STATES } from "@/core/tasks/task";
import { formatDay } from "@/core/time/day";
import { tasks } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { dayInput, idSchema } from "@/platform/input";
import { seesTask } from "./readTasks";
import { taskJson } from "./taskJson";

const fields = {
	state: z.enum(TASK_STATES).optional(),
	note: z.string().trim().max(10_000, "A note has at most 10 000 letters.").nullable().optional(),
	dueOn: dayInput.optional(),
};
const saysWhat = (change: object) => Object.entries(change).some(([name, value]) => name !== "id" && value !== undefined);
const SAY_WHAT = "Say what is to change: state, note or dueOn.";
/** The body of the call; which task it is stands in the address. */
export const taskChangeSchema = z.object(fields).refine(saysWhat, SAY_WHAT).meta({ id: "TaskChange" });

/**
 * Changes a task: done or dropped with a note, opened again, or due on another day. The assignee may, and
 * managers of the assignee or the deal.
 *
 * @throws Fault 409 for a task that someone else has done or dropped meanwhile
 */
export const changeTask = command({
	name: "tasks.change",
	right: "changeTask",
	input: z.object({ id: idSchema, ...fields }).refine(saysWhat, SAY_WHAT),
	async run({ context, input: { id, ...change }, tx }) {
		const { organisation, actor, now } = context;
		const [task] = await tx.select().from(tasks).where(eq(tasks.id, id)).for("update");
		if (!task || !seesTask(context, task)) throw notFound("task", id);
		if (actor.person.role === "rep" && task.assigneeId !== actor.person.id) {
			throw new Fault(403, "Not allowed", "Only the person a task was given to, or a manager above, may change it.");
		}
		if (change.state && change.state !== "open" && task.state !== "open" && task.state !== change.state) {
			throw new Fault(409, "Already settled", `This task was marked ${task.state} meanwhile. Open it again first.`);
		}
		const same =
			(change.state === undefined || change.state === task.state) &&
			(change.note === undefined || (change.note || null) === task.note) &&
			(change.dueOn === undefined || change.dueOn === task.dueOn);
		// Sent again, or by somebody who was a moment later: nothing is left to do.
		if (same) return { result: taskJson(task, organisation, formatDay(now.day)), touched: "nothing", audit: [] };
		const settled = change.state !== undefined && change.state !== "open";
		const [changed] = await tx
			.update(tasks)
			.set({
				...(change.state ? { state: change.state, doneAt: settled ? (task.doneAt ?? new Date(now.instant)) : null } : {}),
				...(change.note !== undefined ? { note: change.note || null } : {}),
				...(change.dueOn ? { dueOn: change.dueOn } : {}),
			})
			.where(eq(tasks.id, id))
			.returning();
		return {
			result: taskJson(changed as typeof task, organisation, formatDay(now.day)),
			touched: task.dealId ? [task.dealId] : "settings",
			audit: { action: "task changed", subject: id, detail: { ...change } },
		};
	},
});
