import { and, desc, eq, inArray } from "drizzle-orm";
import { z } from "zod";
import type { Tx } from "@/data/db";
import { taskChanges, tasks } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import type { AuditEntry } from "@/platform/write";
import { taskChange, touchedBy } from "./recordChange";
import { seesTask } from "./standing";
import type { StoredTask } from "./storedTask";

/**
 * Undoes changes of tasks that the person has just made: each task is as it was before, as if it had never been changed,
 * and what a repeat rule gave by them is gone. What somebody has changed since stays, and is counted.
 */
export const undoTaskChanges = command({
	name: "tasks.undoChanges",
	right: "changeTask",
	input: z.object({ changes: z.array(z.number().int()).min(1).max(500) }),
	async run({ context, input, tx }) {
		const { undone, left, told } = await revertTaskChanges(tx, context, input.changes);
		return {
			result: { count: undone.length, left },
			touched: touchedBy(undone),
			audit: told,
		};
	},
});

/** Takes changes of tasks back within a write of whoever made them; gives the tasks, and how many stay since somebody changed them. */
export async function revertTaskChanges(
	tx: Tx,
	context: Context,
	changes: readonly number[],
): Promise<{ undone: StoredTask[]; left: number; told: AuditEntry[] }> {
	const entries = await tx
		.select()
		.from(taskChanges)
		.where(and(inArray(taskChanges.id, [...changes]), eq(taskChanges.byId, context.actor.person.id)));
	const undone: StoredTask[] = [];
	const told: AuditEntry[] = [];
	let left = changes.length - entries.length;
	for (const entry of entries.sort((a, b) => (a.taskId < b.taskId ? -1 : a.taskId > b.taskId ? 1 : b.id - a.id))) {
		const [task] = await tx.select().from(tasks).where(eq(tasks.id, entry.taskId)).for("update");
		const [newest] = await tx
			.select({ id: taskChanges.id })
			.from(taskChanges)
			.where(eq(taskChanges.taskId, entry.taskId))
			.orderBy(desc(taskChanges.id))
			.limit(1);
		const touchedSince = entry.made !== null && (await tx.$count(taskChanges, eq(taskChanges.taskId, entry.made))) > 0;
		// What one has given away may be out of one's sight now; who gave it away may still take it back.
		const seen =
			task !== undefined && (seesTask(context, task) || seesTask(context, { ...task, assigneeId: entry.before.assigneeId, team: entry.before.team }));
		if (!seen || newest?.id !== entry.id || touchedSince) {
			left++;
			continue;
		}
		const { before } = entry;
		const set = {
			dueOn: before.dueOn,
			assigneeId: before.assigneeId,
			team: before.team,
			state: before.state,
			doneAt: before.doneAt === null ? null : new Date(before.doneAt),
			note: before.note,
			checklist: [...before.checklist],
		};
		await tx.delete(taskChanges).where(eq(taskChanges.id, entry.id));
		if (entry.made !== null) await tx.delete(tasks).where(eq(tasks.id, entry.made));
		const [restored] = await tx.update(tasks).set(set).where(eq(tasks.id, entry.taskId)).returning();
		if (!restored) continue;
		undone.push(restored);
		told.push({ action: "task change undone", subject: restored.id, detail: taskChange(task, restored) });
	}
	return { undone, left, told };
}
