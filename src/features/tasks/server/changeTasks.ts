import { and, eq } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { formatDay, parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { tasks } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { dayInput, idSchema } from "@/platform/input";
import type { AuditEntry } from "@/platform/write";
import { assignable } from "./assignees";
import { createNextTask } from "./createNextTask";
import { demandOwn, heldTask, heldTasks, recordTaskChange, type TaskChanged, taskChange, touchedBy } from "./recordChange";
import type { StoredTask } from "./storedTask";
import { taskJson } from "./taskJson";

const ids = z.array(idSchema).min(1, "Choose at least one task.").max(500, "At most 500 tasks at once.");
const why = z.string().trim().max(500, "A reason has at most 500 letters.").optional();

/**
 * Changes several open tasks at once, all or none: due on a day, or so many working days later; given to somebody else;
 * dropped. Gives the changes, by which it is undone.
 *
 * @throws Fault 409 where one of them is no longer open
 */
export const changeTasks = command({
	name: "tasks.changeMany",
	right: "changeTask",
	input: z.object({
		ids,
		dueOn: dayInput.optional(),
		later: z.number().int().min(-60).max(250).optional(),
		assigneeId: idSchema.optional(),
		drop: z.boolean().default(false),
		why,
	}),
	async run({ context, input, tx }) {
		const { organisation, now } = context;
		const { calendar } = organisation.company.rules;
		const today = formatDay(now.day);
		if (input.dueOn !== undefined && input.dueOn < today)
			throw new Fault(422, "The day has passed", `A task can’t be due on ${input.dueOn}; today is ${today}.`);
		const to = input.assigneeId === undefined ? null : assignable(context, input.assigneeId);
		const rows = await heldTasks(tx, context, [...new Set(input.ids)]);
		const closed = rows.find(({ state }) => state !== "open");
		if (closed) throw new Fault(409, "Already settled", `“${closed.title}” was marked ${closed.state} by now. Reload the page.`);
		for (const row of rows) demandOwn(context, row);
		const dueOf = (task: StoredTask): string | null => {
			if (input.dueOn !== undefined) return input.dueOn;
			if (!input.later) return task.dueOn;
			const from = Math.max(parseDay(task.dueOn ?? today) ?? now.day, now.day);
			return formatDay(input.later > 0 ? calendar.add(from, input.later) : Math.max(now.day, calendar.lastOnOrBefore(from + input.later)));
		};
		const changes: number[] = [];
		const changed: StoredTask[] = [];
		const told: AuditEntry[] = [];
		for (const task of rows) {
			const dueOn = dueOf(task);
			const given = to !== null && task.assigneeId !== to.id;
			if (!input.drop && dueOn === task.dueOn && !given) continue;
			const what: TaskChanged = input.drop ? "dropped" : given ? "handed over" : "moved";
			const set = {
				dueOn,
				...(given ? { assigneeId: to.id, team: null } : {}),
				...(input.drop ? { state: "dropped", doneAt: new Date(now.instant), note: input.why || null } : {}),
			};
			const done = await recordTaskChange(tx, context, task, what, set, input.why || null);
			if (input.drop) await createNextTask(tx, context, done.task, done.change);
			changes.push(done.change);
			changed.push(done.task);
			told.push({ action: "task changed", subject: task.id, detail: { ...taskChange(task, done.task), ...(input.why ? { why: input.why } : {}) } });
		}
		return {
			result: { changes, count: changes.length },
			touched: touchedBy(changed),
			audit: told,
		};
	},
});

/** Hands a task back to whoever gave it, with the reason; to the manager of the team where they have left. */
export const handBack = command({
	name: "tasks.handBack",
	right: "changeTask",
	input: z.object({ id: idSchema, why: z.string().trim().min(1, "Enter a reason for handing it back.").max(500, "A reason has at most 500 letters.") }),
	async run({ context, input, tx }) {
		const { organisation, now, actor } = context;
		const task = await heldTask(tx, context, input.id);
		demandOwn(context, task);
		if (task.state !== "open") throw new Fault(409, "Already settled", `This task was marked ${task.state} by now.`);
		const giver = organisation.people.find(({ id }) => id === task.createdById && id !== task.assigneeId);
		const own = organisation.people.find(({ id }) => id === (task.assigneeId ?? actor.person.id));
		const manager = organisation.people.find(
			(person) => person.role === "manager" && person.team === own?.team && worksOn(person, now.day) && person.id !== own?.id,
		);
		const to = giver && worksOn(giver, now.day) ? giver : manager;
		if (!to) throw new Fault(422, "No one to hand it to", "You gave this task yourself, and nobody manages your team. Drop it instead.");
		const { task: changed, change } = await recordTaskChange(tx, context, task, "handed back", { assigneeId: to.id }, input.why);
		return {
			result: { ...taskJson(context, changed, now.day), to: to.name, change },
			touched: touchedBy([changed]),
			audit: { action: "task handed back", subject: task.id, detail: { ...taskChange(task, changed), why: input.why } },
		};
	},
});

/** Gives open tasks of somebody to others, by their ids, within a write of who may. @throws Fault 409 for a task that isn't theirs any more */
export async function passTasks(
	tx: Tx,
	context: Context,
	from: string,
	to: ReadonlyMap<string, string>,
): Promise<{ changes: number[]; told: AuditEntry[]; tasks: StoredTask[] }> {
	if (!to.size) return { changes: [], told: [], tasks: [] };
	const rows = await tx
		.select()
		.from(tasks)
		.where(and(eq(tasks.assigneeId, from), eq(tasks.state, "open"), isOneOf(tasks.id, [...to.keys()])))
		.orderBy(tasks.id)
		.for("update");
	if (rows.length !== to.size) throw new Fault(409, "Changed since", "One of these tasks was settled or given to someone else since. Reload the list.");
	const changes: number[] = [];
	const told: AuditEntry[] = [];
	for (const task of rows) {
		const done = await recordTaskChange(tx, context, task, "handed over", { assigneeId: to.get(task.id) ?? from });
		changes.push(done.change);
		told.push({ action: "task changed", subject: task.id, detail: taskChange(task, done.task) });
	}
	return { changes, told, tasks: rows };
}
