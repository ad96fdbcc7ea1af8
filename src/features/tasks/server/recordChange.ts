import { eq, sql } from "drizzle-orm";
import type { Tx } from "@/data/db";
import { type TaskBefore, taskChanges, tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { seesTask } from "./standing";
import type { StoredTask } from "./storedTask";

/** What a change of a task is called in its history. */
export type TaskChanged = "done" | "dropped" | "opened" | "moved" | "handed over" | "handed back" | "taken" | "noted" | "checked";

const beforeOf = (task: StoredTask): TaskBefore => ({
	title: task.title,
	dueOn: task.dueOn,
	assigneeId: task.assigneeId,
	team: task.team,
	state: task.state,
	doneAt: task.doneAt?.toISOString() ?? null,
	note: task.note,
	importance: task.importance,
	checklist: task.checklist,
});

/** What of a task the audit tells as changed: each of these that isn't what it was. */
const TOLD = ["title", "dueOn", "assigneeId", "team", "state", "note", "importance", "checklist"] as const;

/** A task's change as the audit tells it: which fields, from what to what. */
export function taskChange(before: StoredTask, after: StoredTask): { before: Record<string, unknown>; after: Record<string, unknown> } {
	const changed = TOLD.filter((name) => JSON.stringify(before[name]) !== JSON.stringify(after[name]));
	const of = (task: StoredTask) => Object.fromEntries(changed.map((name) => [name, task[name]]));
	return { before: of(before), after: of(after) };
}

/** Writes a change of a task with what stood before it; gives the changed row and the change's id. */
export async function recordTaskChange(
	tx: Tx,
	context: Context,
	task: StoredTask,
	what: TaskChanged,
	change: Partial<typeof tasks.$inferInsert>,
	why: string | null = null,
): Promise<{ task: StoredTask; change: number }> {
	const entry = { taskId: task.id, at: new Date(context.now.instant), byId: context.actor.person.id, what, before: beforeOf(task), why };
	const [made] = await tx.insert(taskChanges).values(entry).returning({ id: taskChanges.id });
	const [changed] = await tx.update(tasks).set(change).where(eq(tasks.id, task.id)).returning();
	if (!made || !changed) throw notFound("task", task.id);
	return { task: changed, change: made.id };
}

/** A task that one sees, or that one could see while nobody had taken it; held until the commit. Throws a 404 for any other. */
export async function heldTask(tx: Tx, context: Context, id: string, who: "sees it" | "could take it" = "sees it"): Promise<StoredTask> {
	const [task] = await tx.select().from(tasks).where(eq(tasks.id, id)).for("update");
	const untaken = who === "could take it" && task !== undefined && task.team !== null ? { ...task, assigneeId: null } : task;
	if (!task || !untaken || !(seesTask(context, task) || seesTask(context, untaken))) throw notFound("task", id);
	return task;
}

/** Throws a 403 for a rep with a task that isn't theirs; managers above may change any they see. */
export function demandOwn({ actor }: Context, task: StoredTask): void {
	if (actor.person.role === "rep" && task.assigneeId !== actor.person.id)
		throw new Fault(403, "Not allowed", "Only the person a task was given to, or a manager above them, can change it.");
}

/** What other processes read again of a task: its deal, or all that is about none. */
export const touchedBy = (changed: readonly Pick<StoredTask, "dealId">[]) => {
	const deals = [...new Set(changed.flatMap(({ dealId }) => dealId ?? []))];
	const loose = changed.some(({ dealId }) => dealId === null);
	return loose ? { deals, parts: ["loose tasks" as const] } : deals.length ? deals : ("nothing" as const);
};

/** Several tasks that one sees, in the order of their ids, so that two who change the same never wait for each other. */
export async function heldTasks(tx: Tx, context: Context, ids: readonly string[]): Promise<StoredTask[]> {
	const rows = await tx
		.select()
		.from(tasks)
		.where(sql`${tasks.id} in ${[...ids]}`)
		.orderBy(tasks.id)
		.for("update");
	const missing = ids.find((id) => !rows.some((row) => row.id === id && seesTask(context, row)));
	if (missing !== undefined) throw notFound("task", missing);
	return rows;
}
