import { eq } from "drizzle-orm";
import { z } from "zod";
import { TASK_STATES } from "@/core/tasks/task";
import type { Tx } from "@/data/db";
import { contacts } from "@/data/schema";
import { activityFields, insertActivity, type NewActivity, touchedByActivity, writeActivity } from "@/platform/activities";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dayInput, idSchema } from "@/platform/input";
import { reachAccount } from "@/platform/reachAccount";
import { createNextTask } from "./createNextTask";
import { demandOwn, heldTask, recordTaskChange, type TaskChanged, taskChange, touchedBy } from "./recordChange";
import type { StoredTask } from "./storedTask";
import { taskJson } from "./taskJson";

const checklist = z
	.array(z.object({ words: z.string().trim().min(1).max(200, "A line of a checklist has at most 200 letters."), done: z.boolean() }))
	.max(30, "A checklist has at most 30 lines.");

const fields = {
	state: z.enum(TASK_STATES).optional(),
	note: z.string().trim().max(10_000, "A note has at most 10 000 letters.").nullable().optional(),
	dueOn: dayInput.optional(),
	checklist: checklist.optional(),
	/** the activity by which it was done, logged with it */
	log: z.object(activityFields).optional(),
};
const saysWhat = (change: object) => Object.entries(change).some(([name, value]) => name !== "id" && value !== undefined);
const SAY_WHAT = "Give at least one of: state, note, dueOn, checklist.";
/** The body of the call; which task it is stands in the address. */
export const taskChangeSchema = z.object(fields).refine(saysWhat, SAY_WHAT).meta({ id: "TaskChange" });

/**
 * Changes a task: done (with a note, or by logging the activity it asked for) or dropped, opened again, due on another
 * day, or its checklist. The assignee may, and managers of the assignee or the deal.
 *
 * @throws Fault 409 for a task that someone else has done or dropped meanwhile
 */
export const changeTask = command({
	name: "tasks.change",
	right: "changeTask",
	input: z.object({ id: idSchema, ...fields }).refine(saysWhat, SAY_WHAT),
	async run({ context, input: { id, log, ...change }, tx }) {
		const task = await heldTask(tx, context, id);
		demandOwn(context, task);
		if (change.state && change.state !== "open" && task.state !== "open" && task.state !== change.state)
			throw new Fault(409, "Already settled", `This task was marked ${task.state} in the meantime. Reopen it first.`);
		const same =
			(change.state === undefined || change.state === task.state) &&
			(change.note === undefined || (change.note || null) === task.note) &&
			(change.dueOn === undefined || change.dueOn === task.dueOn) &&
			(change.checklist === undefined || JSON.stringify(change.checklist) === JSON.stringify(task.checklist));
		// Sent again, or by somebody who was a moment later: nothing is left to do.
		if (same && !log) return { result: { ...taskJson(context, task, context.now.day), change: null as number | null }, touched: "nothing", audit: [] };
		const activity = log && (await logged(tx, context, task, log));
		const settled = change.state !== undefined && change.state !== "open";
		const { task: changed, change: entry } = await recordTaskChange(tx, context, task, whatOf(change, task), {
			...(change.state ? { state: change.state, doneAt: settled ? (task.doneAt ?? new Date(context.now.instant)) : null } : {}),
			...(change.note !== undefined ? { note: change.note || null } : {}),
			...(change.dueOn ? { dueOn: change.dueOn } : {}),
			...(change.checklist ? { checklist: change.checklist } : {}),
		});
		const next = settled && task.state === "open" ? await createNextTask(tx, context, changed, entry) : null;
		const activityTouch = activity ? touchedByLog(context, task) : null;
		return {
			result: { ...taskJson(context, changed, context.now.day), change: entry as number | null },
			touched: activityTouch ?? touchedBy([changed]),
			audit: {
				action: "task changed",
				subject: id,
				detail: { ...taskChange(task, changed), ...(activity ? { activity: activity.id } : {}), ...(next ? { next } : {}) },
			},
		};
	},
});

/** Writes the activity by which a task is done: on its deal, or at its account. */
async function logged(tx: Tx, context: Context, { dealId, accountId }: StoredTask, log: NewActivity): Promise<{ id: string }> {
	if (dealId !== null) return writeActivity(tx, context, { ...log, dealId });
	if (accountId === null) throw new Fault(422, "No deal", "This task isn’t about a deal or an account, so no activity can be logged.");
	reachAccount(context, accountId);
	const known = await tx.select({ id: contacts.id }).from(contacts).where(eq(contacts.accountId, accountId));
	return insertActivity(tx, context, { dealId: null, accountId }, log, known);
}

const touchedByLog = (context: Context, { dealId }: StoredTask) => {
	if (dealId === null) return { deals: [], parts: ["loose tasks" as const, "accounts" as const] };
	return touchedByActivity(context, dealId);
};

function whatOf(change: { state?: string | undefined; dueOn?: string | undefined; checklist?: unknown }, task: StoredTask): TaskChanged {
	if (change.state && change.state !== task.state) return change.state === "open" ? "opened" : (change.state as "done" | "dropped");
	if (change.dueOn && change.dueOn !== task.dueOn) return "moved";
	return change.checklist ? "checked" : "noted";
}
