import { and, eq, inArray, isNull } from "drizzle-orm";
import { z } from "zod";
import { RULES } from "@/core/flags/list";
import { worksOn } from "@/core/people/person";
import { defaultDue } from "@/core/tasks/task";
import { formatDay, isoOrNull } from "@/core/time/day";
import { quarterOf } from "@/core/time/period";
import { tasks } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { reaches, reachOf } from "@/platform/reach";
import { surveyOn } from "@/platform/survey";
import { type TaskJson, taskJson } from "./taskJson";

const codes = RULES.map((rule) => rule.code) as [string, ...string[]];

export interface Assigned {
	readonly tasks: TaskJson[];
	/** deals whose owner has left or is missing: their task went to the person who gave it */
	readonly kept: string[];
	/** deals that close before the task is due */
	readonly afterClose: string[];
}

/**
 * Gives one task for each deal, each to the deal's owner (or to `assigneeId`), all or none.
 *
 * @throws Fault 404 a deal out of reach; 409 a closed deal; 422 a due day that has passed
 * @example giveTasks(ruth, { dealIds: ["d1"], title: "Call", dueOn: "2026-11-27" })
 */
export const giveTasks = command({
	name: "tasks.give",
	right: "assignTasks",
	input: z
		.object({
			dealIds: z.array(idSchema).min(1, "Choose at least one deal.").max(500, "At most 500 deals at once."),
			title: z.string().trim().min(1, "Write what is to be done.").max(300, "A task's title has at most 300 letters."),
			dueOn: dayInput.optional(),
			/** without it, each task goes to the owner of its deal */
			assigneeId: idSchema.optional(),
			flags: z.array(z.enum(codes)).max(20).default([]),
		})
		.meta({ id: "NewTasks" }),
	async run({ context, input, tx }) {
		const { organisation, actor, now } = context;
		const { rules } = organisation.company;
		const reach = reachOf(organisation, actor);
		const survey = surveyOn(organisation.company, now.day);
		const today = formatDay(now.day);
		const dueOn = input.dueOn ?? formatDay(defaultDue(rules.calendar, now.day, quarterOf(now.day, rules.fiscalStart)));
		if (dueOn < today) throw new Fault(422, "The day has passed", `A task can't be due on ${dueOn}; today is ${today}.`);
		const chosen = input.assigneeId === undefined ? undefined : organisation.personIndex.get(input.assigneeId);
		if (input.assigneeId !== undefined && (chosen === undefined || !reaches(reach, chosen))) throw notFound("person", input.assigneeId);

		const kept: string[] = [];
		const afterClose: string[] = [];
		const rows = [...new Set(input.dealIds)].map((dealId) => {
			const seen = survey.deals[organisation.dealIndex.get(dealId) ?? -1];
			if (!seen || !reaches(reach, seen.owner)) throw notFound("deal", dealId);
			if (seen.status !== "open") throw new Fault(409, "The deal is closed", `${dealId} is ${seen.status}; a task belongs to an open deal.`);
			const owner = organisation.people[chosen ?? seen.owner];
			const works = owner !== undefined && worksOn(owner, now.day);
			if (!works) kept.push(dealId);
			const close = isoOrNull(seen.close);
			if (close !== null && close < dueOn) afterClose.push(dealId);
			return {
				id: newId("task"),
				dealId,
				title: input.title,
				assigneeId: works ? owner.id : actor.person.id,
				dueOn,
				createdAt: new Date(now.instant),
				state: "open",
				flags: input.flags,
				createdById: actor.person.id,
			};
		});
		const made = await tx.insert(tasks).values(rows).returning();
		const result: Assigned = { tasks: made.map((task) => taskJson(task, organisation, today)), kept, afterClose };
		return {
			result,
			touched: rows.map((row) => row.dealId),
			audit: { action: "tasks given", detail: { tasks: rows.map((row) => row.id), title: input.title } },
		};
	},
});

/** Takes tasks back that the person has just given: they are gone, as if never given. Those already done or changed stay. */
export const takeBackTasks = command({
	name: "tasks.takeBack",
	right: "assignTasks",
	input: z.object({ ids: z.array(idSchema).max(500) }),
	async run({ context, input: { ids }, tx }) {
		const own = and(inArray(tasks.id, ids), eq(tasks.createdById, context.actor.person.id), eq(tasks.state, "open"), isNull(tasks.note));
		const gone = ids.length ? await tx.delete(tasks).where(own).returning({ id: tasks.id, dealId: tasks.dealId }) : [];
		return {
			result: { count: gone.length },
			touched: gone.length ? gone.flatMap((task) => task.dealId ?? []) : "nothing",
			audit: gone.length ? { action: "tasks taken back", detail: { tasks: gone.map((task) => task.id) } } : [],
		};
	},
});
