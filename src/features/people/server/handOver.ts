import { and, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { dealVersions, tasks } from "@/data/schema";
import { applyEdit, revertEdits } from "@/features/deals";
import { passTasks, revertTaskChanges, touchedBy } from "@/features/tasks";
import { command, lookup } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { dealName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { surveyOn } from "@/platform/survey";

/** Somebody within reach of whoever hands over. */
function reached({ organisation, actor }: Context, id: string) {
	const index = organisation.personIndex.get(id);
	const person = index === undefined ? undefined : organisation.people[index];
	if (!person || index === undefined || !reaches(reachOf(organisation, actor), index)) throw notFound("person", id);
	return { person, index };
}

/** The open deals and tasks of somebody, as they are handed over. */
export const previewHandOver = lookup({
	name: "people.previewHandOver",
	right: "handOver",
	input: z.object({ from: idSchema }),
	async run({ context, input: { from } }) {
		const { organisation, now } = context;
		const { index, person } = reached(context, from);
		const open = surveyOn(organisation.company, now.day).deals.flatMap((seen) =>
			seen?.status === "open" && seen.owner === index
				? [{ id: organisation.deals[seen.deal]?.id ?? "", name: dealName(organisation, seen.deal), amount: seen.amountBase, level: seen.attention.level }]
				: [],
		);
		const own = await connection()
			.db.select({ id: tasks.id, title: tasks.title, dueOn: tasks.dueOn })
			.from(tasks)
			.where(and(eq(tasks.assigneeId, from), eq(tasks.state, "open")))
			.orderBy(tasks.dueOn, tasks.id);
		const people = organisation.people.flatMap((one, i) =>
			i !== index && reaches(reachOf(organisation, context.actor), i) && worksOn(one, now.day) && (one.role === "rep" || one.role === "manager")
				? [{ id: one.id, name: one.name, team: one.team }]
				: [],
		);
		return {
			name: person.name,
			team: person.team,
			deals: open.sort((a, b) => b.amount - a.amount),
			tasks: own,
			people,
			currency: organisation.company.rules.rates.base,
		};
	},
});

/**
 * Hands somebody's open deals and tasks over to another in one step. What was theirs stays theirs in the past: deals get a
 * version, tasks a change. Gives what it is undone by.
 *
 * @throws Fault 422 where the other doesn't work here
 */
export const handOver = command({
	name: "people.handOver",
	right: "handOver",
	input: z.object({ from: idSchema, to: idSchema, deals: z.boolean().default(true), tasks: z.boolean().default(true) }),
	async run({ context, input, tx }) {
		const { organisation, now } = context;
		const { person: from, index } = reached(context, input.from);
		const { person: to } = reached(context, input.to);
		if (from.id === to.id) throw new Fault(422, "The same person", "Choose somebody else to hand it over to.");
		if (!worksOn(to, now.day)) throw new Fault(422, "Doesn’t work here", `${to.name} doesn’t work here on ${formatDay(now.day)}.`);
		const ids = input.deals
			? surveyOn(organisation.company, now.day).deals.flatMap((seen) =>
					seen?.status === "open" && seen.owner === index ? (organisation.deals[seen.deal]?.id ?? []) : [],
				)
			: [];
		const targets = await currentTargets(tx, ids);
		const edited = targets.length ? await applyEdit(tx, context, targets, { ownerId: to.id }) : { done: [], audit: [] };
		const passed = input.tasks ? await passTasks(tx, context, from.id, to.id) : { changes: [], tasks: [] };
		const touchedTasks = touchedBy(passed.tasks);
		const deals = [...new Set([...targets.map(({ id }) => id), ...passed.tasks.flatMap(({ dealId }) => dealId ?? [])])];
		const loose = typeof touchedTasks === "object" && "parts" in touchedTasks;
		return {
			result: {
				deals: edited.done.map(({ id, versionId }) => ({ id, versionId })),
				changes: passed.changes,
				to: to.name,
			},
			touched: deals.length || loose ? { deals, parts: loose ? (["settings"] as const) : [] } : "nothing",
			audit: [...edited.audit, { action: "handed over", subject: from.id, detail: { to: to.id, deals: targets.length, tasks: passed.changes.length } }],
		};
	},
});

const currentTargets = async (tx: Tx, ids: readonly string[]) => {
	if (!ids.length) return [];
	const rows = await tx.select({ id: dealVersions.dealId, versionId: dealVersions.id }).from(dealVersions).where(isNull(dealVersions.validTo));
	const wanted = new Set(ids);
	return rows.filter(({ id }) => wanted.has(id));
};

/** Undoes a handing over by whoever did it: each deal gets a version like the one before, each task is as it was. */
export const undoHandOver = command({
	name: "people.undoHandOver",
	right: "handOver",
	input: z.object({ deals: z.array(z.object({ id: idSchema, versionId: z.number().int() })).max(5000), changes: z.array(z.number().int()).max(5000) }),
	async run({ context, input, tx }) {
		const reverted = input.deals.length ? await revertEdits(tx, context, input.deals) : { done: [], audit: [] };
		const { undone, left } = input.changes.length ? await revertTaskChanges(tx, context, input.changes) : { undone: [], left: 0 };
		const deals = [...new Set([...input.deals.map(({ id }) => id), ...undone.flatMap(({ dealId }) => dealId ?? [])])];
		return { result: { deals: reverted.done.length, tasks: undone.length, left }, touched: { deals, parts: ["settings"] }, audit: reverted.audit };
	},
});
