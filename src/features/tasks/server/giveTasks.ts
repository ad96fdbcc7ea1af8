import { and, eq, inArray, isNull, notExists, sql } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { defaultDue } from "@/core/tasks/task";
import { formatDay, isoOrNull } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { shortDay } from "@/core/time/words";
import type { Tx } from "@/data/db";
import type { Account } from "@/data/organisation/state";
import { taskChanges, tasks } from "@/data/schema";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { accountName, dealName, ownerName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { reachAccount } from "@/platform/reachAccount";
import { fillIn } from "../table/fill";
import { demandTeam, withinReachById } from "./assignees";
import { touchedBy } from "./recordChange";
import { lineSchema, type NewTask, taskOptions, titleSchema, whoseFields } from "./taskFields";
import { type TaskJson, taskJson } from "./taskJson";

export interface Assigned {
	readonly tasks: TaskJson[];
	/** deals whose owner has left or is missing: their task went to the person who gave it */
	readonly kept: string[];
	/** deals that close before the task is due */
	readonly afterClose: string[];
}

/** Writes tasks that are to be given, all or none; those of one call are a series. */
export async function give(tx: Tx, context: Context, lines: readonly NewTask[], roundId: string | null = null): Promise<Assigned> {
	const { organisation, actor, now } = context;
	const today = formatDay(now.day);
	const reach = reachOf(organisation, actor);
	const survey = surveyOn(organisation.company, now.day);
	const kept = new Set<string>();
	const afterClose = new Set<string>();
	const seriesId = lines.length > 1 ? newId("series") : null;
	const rows = lines.map((line): typeof tasks.$inferInsert => {
		if (line.dueOn < today) throw new Fault(422, "The day has passed", `A task can’t be due on ${line.dueOn}; today is ${today}.`);
		if (line.remindOn && line.remindOn < today) throw new Fault(422, "The day has passed", `A reminder can’t be on ${line.remindOn}; today is ${today}.`);
		if (line.remindOn && line.remindOn > line.dueOn)
			throw new Fault(422, "Reminder too late", `A reminder on ${line.remindOn} is after the task’s due day, ${line.dueOn}.`);
		const seen = line.dealId === null ? null : survey.deals[organisation.dealIndex.get(line.dealId) ?? -1];
		if (line.dealId !== null) {
			if (!seen || !reaches(reach, seen.owner)) throw notFound("deal", line.dealId);
			if (seen.status !== "open") throw new Fault(409, "The deal is closed", `${line.dealId} is ${seen.status}; a task belongs to an open deal.`);
			const close = isoOrNull(seen.close);
			if (close !== null && close < line.dueOn) afterClose.add(line.dealId);
		}
		if (line.asks !== null && !organisation.activityKinds.includes(line.asks))
			throw new Fault(422, "No such kind", `There is no activity of the kind ${line.asks}; there are ${organisation.activityKinds.join(", ")}.`);
		const { accountId } = line;
		if (accountId !== null && line.dealId !== null) throw new Fault(422, "Two places", "A task is about a deal or about an account, not both.");
		if (line.asks !== null && line.dealId === null && accountId === null)
			throw new Fault(422, "No deal", "A task without a deal can’t ask for an activity to be logged.");
		const account = accountId === null ? null : reachAccount(context, accountId);
		const owner = account ? (organisation.personIndex.get(account.ownerId ?? "") ?? null) : (seen?.owner ?? null);
		const { dealId, title, dueOn, assigneeId: _, team, checklist, ...options } = line;
		const assigneeId = team === undefined ? assigneeOf(context, line, owner) : null;
		if (team !== undefined) demandTeam(context, team);
		if (team === undefined && line.assigneeId === undefined && dealId !== null && assigneeId !== organisation.people[seen?.owner ?? -1]?.id) kept.add(dealId);
		return {
			...options,
			id: newId("task"),
			dealId,
			title: dealId !== null ? fillIn(title, fieldsOf(context, dealId, line.flags)) : account ? fillIn(title, fieldsAt(context, account)) : title,
			assigneeId,
			team: team ?? null,
			dueOn,
			checklist: checklist.map((words) => ({ words, done: false })),
			createdAt: new Date(now.instant),
			state: "open",
			createdById: actor.person.id,
			seriesId,
			roundId,
		};
	});
	const made = await tx.insert(tasks).values(rows).returning();
	return { tasks: made.map((task) => taskJson(context, task, now.day)), kept: [...kept], afterClose: [...afterClose] };
}

/** Whoever is named, if they are within reach; else the deal's owner; or whoever gives it, where they have left. */
function assigneeOf(context: Context, line: NewTask, owner: number | null): string {
	const { organisation, actor, now } = context;
	const person = line.assigneeId === undefined ? organisation.people[owner ?? -1] : withinReachById(context, line.assigneeId);
	return person && worksOn(person, now.day) ? person.id : actor.person.id;
}

/** What the fields in a task's text say of a deal. */
export function fieldsOf(context: Context, dealId: string, flags: readonly string[]) {
	const { organisation, now } = context;
	const deal = organisation.dealIndex.get(dealId) ?? -1;
	const seen = surveyOn(organisation.company, now.day).deals[deal];
	const lit = seen?.flags.find(({ code }) => !flags.length || flags.includes(code));
	return {
		deal: dealName(organisation, deal),
		account: accountName(organisation, deal),
		"close date": seen && isoOrNull(seen.close) ? shortDay(seen.close) : "no date",
		owner: ownerName(organisation, seen?.owner ?? -1),
		flag: lit?.label ?? "no flag",
	};
}

/** The same of an account beside its deals. */
const fieldsAt = ({ organisation }: Context, { name, ownerId }: Account) => ({
	deal: "no deal",
	account: name || "No name",
	"close date": "no date",
	owner: ownerName(organisation, organisation.personIndex.get(ownerId ?? "") ?? -1),
	flag: "no flag",
});

/** What the audit says of tasks that were given, an entry each. */
export const auditOf = (assigned: Assigned) => ({
	action: "tasks given",
	detail: { tasks: assigned.tasks.map(({ id }) => id), title: assigned.tasks[0]?.title ?? "" },
});
/** The deals whose tasks changed. */
export const touchOf = ({ tasks: made }: Assigned) => touchedBy(made.map(({ dealId }) => ({ dealId })));

/**
 * Gives one task for each deal, each to the deal's owner (or to `assigneeId`, or to anyone of `team`), all or none. The
 * text may have fields in braces, filled in for each deal.
 *
 * @throws Fault 404 a deal out of reach; 409 a closed deal; 422 a due day that has passed
 * @example giveTasks(ruth, { dealIds: ["d1"], title: "Call {account}", dueOn: "2026-11-27" })
 */
export const giveTasks = command({
	name: "tasks.give",
	right: "assignTasks",
	input: z
		.object({
			dealIds: z.array(idSchema).min(1, "Choose at least one deal.").max(500, "At most 500 deals at once."),
			title: titleSchema,
			dueOn: dayInput.optional(),
			...whoseFields,
			...taskOptions,
		})
		.meta({ id: "NewTasks" }),
	async run({ context, input: { dealIds, dueOn, ...rest }, tx }) {
		const { organisation, now } = context;
		const { rules } = organisation.company;
		const due = dueOn ?? formatDay(defaultDue(rules.calendar, now.day, quarterOf(now.day, rules.fiscal)));
		const result = await give(
			tx,
			context,
			[...new Set(dealIds)].map((dealId) => ({ ...rest, dealId, accountId: null, dueOn: due })),
		);
		return { result, touched: touchOf(result), audit: auditOf(result) };
	},
});

/** Gives tasks that were each looked at: each with its own text, day and person, about a deal or none. All or none. */
export const giveEach = command({
	name: "tasks.giveEach",
	right: "assignTasks",
	input: z.object({ lines: z.array(lineSchema).min(1, "No tasks to give.").max(500, "At most 500 tasks at once.") }).meta({ id: "NewTaskLines" }),
	async run({ context, input: { lines }, tx }) {
		const result = await give(tx, context, lines);
		return { result, touched: touchOf(result), audit: auditOf(result) };
	},
});

/** Takes tasks back that the person has just given: they are gone, as if never given. Those already done or changed stay. */
export const takeBackTasks = command({
	name: "tasks.takeBack",
	right: "assignTasks",
	input: z.object({ ids: z.array(idSchema).max(500) }),
	async run({ context, input: { ids }, tx }) {
		const untouched = notExists(tx.select({ one: sql`1` }).from(taskChanges).where(eq(taskChanges.taskId, tasks.id)));
		const own = and(inArray(tasks.id, ids), eq(tasks.createdById, context.actor.person.id), eq(tasks.state, "open"), isNull(tasks.note), untouched);
		const gone = ids.length ? await tx.delete(tasks).where(own).returning({ id: tasks.id, dealId: tasks.dealId, title: tasks.title }) : [];
		return {
			result: { count: gone.length },
			touched: touchedBy(gone),
			audit: gone.length ? { action: "tasks deleted", detail: { tasks: gone.map((task) => task.title) } } : [],
		};
	},
});
