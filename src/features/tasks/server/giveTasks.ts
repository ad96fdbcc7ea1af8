import { randomUUID } from "node:crypto";
import { inArray } from "drizzle-orm";
import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { worksOn } from "@/core/people/person";
import { defaultDue } from "@/core/tasks/task";
import { formatDay, isoOrNull } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { demand, reaches, reachOf } from "@/platform/rights";
import { surveyOn } from "@/platform/survey";
import { type TaskJson, taskJson } from "./taskJson";

const codes = RULES.map((rule) => rule.code) as [string, ...string[]];

export const assignSchema = z
	.object({
		dealIds: z.array(z.string().max(200)).min(1, "Choose at least one deal.").max(500, "At most 500 deals at once."),
		title: z.string().trim().min(1, "Write what is to be done.").max(300, "A task's title has at most 300 letters."),
		dueOn: z.iso.date("This isn't a day that exists.").optional(),
		/** without it, each task goes to the owner of its deal */
		assigneeId: z.string().max(200).optional(),
		flags: z.array(z.enum(codes)).max(20).default([]),
	})
	.meta({ id: "NewTasks" });

export interface Assigned {
	readonly tasks: TaskJson[];
	/** deals whose owner has left or is missing: their task went to the person who gave it */
	readonly kept: string[];
	/** deals that close before the task is due */
	readonly afterClose: string[];
}

/** Writes one task for each deal, each to the owner of its deal, all or none. */
export async function assignTasks(context: Context, input: z.input<typeof assignSchema>): Promise<Assigned> {
	demand(context.actor, "assignTasks");
	const wish = assignSchema.parse(input);
	const { organisation, actor, now } = context;
	const { rules } = organisation.company;
	const reach = reachOf(organisation, actor);
	const survey = surveyOn(organisation.company, now.day);
	const dueOn = wish.dueOn ?? formatDay(defaultDue(rules.calendar, now.day, quarterOf(now.day, rules.fiscalStart)));
	if (dueOn < formatDay(now.day)) throw new Fault(422, "The day has passed", `A task can't be due on ${dueOn}; today is ${formatDay(now.day)}.`);
	const chosen = wish.assigneeId === undefined ? undefined : organisation.personIndex.get(wish.assigneeId);
	if (wish.assigneeId !== undefined && (chosen === undefined || !reaches(reach, chosen))) throw notFound("person", wish.assigneeId);

	const kept: string[] = [];
	const afterClose: string[] = [];
	const rows = [...new Set(wish.dealIds)].map((dealId) => {
		const deal = organisation.dealIndex.get(dealId);
		const seen = deal === undefined ? null : survey.deals[deal];
		if (!seen || !reaches(reach, seen.owner)) throw notFound("deal", dealId);
		if (seen.status !== "open") throw new Fault(409, "The deal is closed", `${dealId} is ${seen.status}; a task belongs to an open deal.`);
		const owner = organisation.people[chosen ?? seen.owner];
		const works = owner !== undefined && worksOn(owner, now.day);
		if (!works) kept.push(dealId);
		const close = isoOrNull(seen.close);
		if (close !== null && close < dueOn) afterClose.push(dealId);
		return {
			id: `task-${randomUUID()}`,
			dealId,
			title: wish.title,
			assigneeId: works ? owner.id : actor.person.id,
			dueOn,
			createdAt: new Date(now.instant),
			doneAt: null,
			state: "open",
			flags: wish.flags,
			createdById: actor.person.id,
			note: null,
		};
	});
	const stored = await connection().db.transaction(async (tx) => {
		const made = await tx.insert(tasks).values(rows).returning();
		await record(tx, context, "tasks given", null, { tasks: rows.map((row) => row.id), title: wish.title });
		await touch(
			tx,
			rows.map((row) => row.dealId),
		);
		return made;
	});
	return { tasks: stored.map((task) => taskJson(task, organisation, formatDay(now.day))), kept, afterClose };
}

/** Takes tasks back that the person has just given: they are gone, as if never given. Those already done or changed stay. */
export async function takeBackTasks(context: Context, ids: readonly string[]): Promise<number> {
	demand(context.actor, "assignTasks");
	return connection().db.transaction(async (tx) => {
		const found = await tx
			.select()
			.from(tasks)
			.where(inArray(tasks.id, [...ids]))
			.for("update");
		const own = found.filter((task) => task.createdById === context.actor.person.id && task.state === "open" && task.note === null);
		if (!own.length) return 0;
		await tx.delete(tasks).where(
			inArray(
				tasks.id,
				own.map((task) => task.id),
			),
		);
		await record(tx, context, "tasks taken back", null, { tasks: own.map((task) => task.id) });
		await touch(
			tx,
			own.flatMap((task) => task.dealId ?? []),
		);
		return own.length;
	});
}
