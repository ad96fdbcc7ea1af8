import { eq } from "drizzle-orm";
import { z } from "zod";
import { TASK_STATES } from "@/core/tasks/task";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { demand } from "@/platform/rights";
import { seesTask } from "./readTasks";
import { type TaskJson, taskJson } from "./taskJson";

export const changeTaskSchema = z
	.object({
		state: z.enum(TASK_STATES).optional(),
		note: z.string().trim().max(10_000, "A note has at most 10 000 letters.").nullable().optional(),
		dueOn: z.iso.date("This isn't a day that exists.").optional(),
	})
	.refine((change) => Object.values(change).some((value) => value !== undefined), "Say what is to change: state, note or dueOn.")
	.meta({ id: "TaskChange" });

/**
 * Changes a task: done or dropped with a note, opened again, or due on another day. The assignee may, and
 * managers of the assignee or the deal. A task that someone else has done or dropped meanwhile is refused.
 */
export async function changeTask(context: Context, id: string, input: z.infer<typeof changeTaskSchema>): Promise<TaskJson> {
	demand(context.actor, "changeTask");
	const { organisation, actor, now } = context;
	const stored = await connection().db.transaction(async (tx) => {
		const [task] = await tx.select().from(tasks).where(eq(tasks.id, id)).for("update");
		if (!task || !seesTask(context, task)) throw notFound("task", id);
		if (actor.person.role === "rep" && task.assigneeId !== actor.person.id) {
			throw new Fault(403, "Not allowed", "Only the person a task was given to, or a manager above, may change it.");
		}
		if (input.state && input.state !== "open" && task.state !== "open" && task.state !== input.state) {
			throw new Fault(409, "Already settled", `This task was marked ${task.state} meanwhile. Open it again first.`);
		}
		const settled = input.state !== undefined && input.state !== "open";
		const [changed] = await tx
			.update(tasks)
			.set({
				...(input.state ? { state: input.state, doneAt: settled ? (task.doneAt ?? new Date(now.instant)) : null } : {}),
				...(input.note !== undefined ? { note: input.note || null } : {}),
				...(input.dueOn ? { dueOn: input.dueOn } : {}),
			})
			.where(eq(tasks.id, id))
			.returning();
		await record(tx, context, "task changed", id, { ...input });
		await touch(tx, task.dealId ? [task.dealId] : []);
		return changed as typeof task;
	});
	return taskJson(stored, organisation, formatDay(now.day));
}
