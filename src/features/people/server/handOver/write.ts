import { and, eq, isNull, or } from "drizzle-orm";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { formatDay, isoOrNull, parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { isOneOf } from "@/data/queries/isOneOf";
import { dealVersions, type HandedOver, handovers, people, roundPlans } from "@/data/schema";
import { applyEdit } from "@/features/deals";
import { writeTargets } from "@/features/period";
import { passTasks } from "@/features/tasks";
import { command } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { demand } from "@/platform/rights";
import type { AuditEntry } from "@/platform/write";
import { demandOps } from "../managePeople";
import { reached } from "./reached";
import { targetsFrom } from "./targets";
import { touchedBy } from "./touched";
import { endWaysNow } from "./ways";

const given = z.array(z.object({ id: idSchema, to: idSchema })).max(5000, "At most 5 000 at once.");
const once = (list: readonly { readonly id: string }[]) => new Set(list.map(({ id }) => id)).size === list.length;

export const handOverInput = z.object({
	from: idSchema,
	/** the last day that they work here; left out, it stays as it is */
	lastDay: dayInput.nullable().optional(),
	/** each deal that goes to somebody; those that aren't named stay */
	deals: given.refine(once, "A deal appears twice.").default([]),
	tasks: given.refine(once, "A task appears twice.").default([]),
	/** each planned round that goes to somebody, or (null) ends */
	plans: z
		.array(z.object({ id: idSchema, to: idSchema.nullable() }))
		.max(200)
		.default([]),
	/** from a day on their targets go to somebody, or (null) end; null: they stay */
	targets: z.object({ from: dayInput, to: idSchema.nullable() }).nullable().default(null),
	/** keys, calendars, links, webhooks and sessions end now, not only with the last day */
	endWays: z.boolean().default(false),
});

/**
 * Hands over what is somebody's, to as many others as it takes, and says when they leave: all in one step or none of it.
 * What was theirs stays theirs in the past: deals get a version, tasks a change, targets are parted. It is undone whole by
 * `undoHandOver`.
 *
 * @throws Fault 404 whatever isn't theirs or in reach; 422 where somebody who is to take over doesn't work here
 */
export const handOver = command({
	name: "people.handOver",
	right: "handOver",
	input: handOverInput,
	alone: true,
	async run({ context, input, tx }) {
		const { now, actor } = context;
		const { person: from } = reached(context, input.from);
		const takers = new Set([...input.deals, ...input.tasks].map(({ to }) => to));
		for (const { to } of input.plans) if (to !== null) takers.add(to);
		if (input.targets?.to) takers.add(input.targets.to);
		for (const id of takers) demandTaker(context, from.id, id);
		if (input.lastDay !== undefined || input.endWays) demand(actor, "managePeople");
		if (input.targets) demand(actor, "setTargets");

		const edited = await giveDeals(tx, context, input);
		const passed = await passTasks(tx, context, from.id, new Map(input.tasks.map(({ id, to }) => [id, to])));
		const plans = await passPlans(tx, context, from.id, input.plans);
		const cells = input.targets ? await targetsFrom(tx, from.id, parseDay(input.targets.from) ?? now.day, input.targets.to) : [];
		const before = cells.length ? await writeTargets(tx, cells) : [];
		const was = isoOrNull(from.activeTo);
		if (input.lastDay !== undefined) await setLastDay(tx, context, from, input.lastDay);
		const over = input.lastDay !== undefined && input.lastDay !== null && input.lastDay < formatDay(now.day);
		const ended = input.endWays || over ? await endWaysNow(tx, from.id) : null;

		const record: HandedOver = {
			...(input.lastDay === undefined ? {} : { lastDay: was }),
			deals: edited.done,
			changes: passed.changes,
			plans,
			targets: before,
			targetsAfter: cells,
			ways: ended?.kept ?? null,
		};
		const id = newId("handover");
		await tx.insert(handovers).values({ id, personId: from.id, byId: actor.person.id, at: new Date(now.instant), record });
		return {
			result: { id, deals: edited.done.length, tasks: passed.changes.length, plans: plans.length, targets: before.length > 0, lastDay: input.lastDay ?? null },
			touched: touchedBy([...edited.done, ...passed.tasks]),
			audit: [
				...edited.audit,
				...passed.told,
				{
					action: "handed over",
					subject: from.id,
					detail: {
						...(input.lastDay === undefined ? {} : { lastDayBefore: was, lastDayAfter: input.lastDay }),
						deals: edited.done.length,
						tasks: passed.changes.length,
						plannedRounds: plans.length,
						to: [...takers],
						...(input.targets
							? { targets: input.targets.to === null ? `end from ${input.targets.from}` : `go on from ${input.targets.from}`, targetsTo: input.targets.to }
							: {}),
						...(ended ? { ended: ended.counts } : {}),
					},
				},
			],
		};
	},
});

/** Throws unless somebody is another one, in reach, who works here today. */
function demandTaker(context: Context, from: string, id: string): void {
	const { person } = reached(context, id);
	if (id === from) throw new Fault(422, "The same person", "Choose someone else to hand it over to.");
	if (!worksOn(person, context.now.day))
		throw new Fault(422, "Not with the company", `${person.name} isn’t with the company on ${formatDay(context.now.day)}.`);
	if (person.role !== "rep" && person.role !== "manager")
		throw new Fault(422, "Has no deals", `${person.name} is ${person.role}; deals and tasks go to reps and managers.`);
}

async function giveDeals(
	tx: Tx,
	context: Context,
	{ from, deals }: z.output<typeof handOverInput>,
): Promise<{ done: HandedOver["deals"]; audit: AuditEntry[] }> {
	const { organisation, now } = context;
	const owner = organisation.personIndex.get(from);
	const theirs = new Map(surveyOn(organisation.company, now.day).deals.map((seen) => [organisation.deals[seen?.deal ?? -1]?.id ?? "", seen]));
	for (const { id } of deals) {
		const seen = theirs.get(id);
		if (seen?.status !== "open" || seen.owner !== owner)
			throw new Fault(409, "Changed since", "One of these deals was closed or given to someone else since. Reload the list.");
	}
	const ids = deals.map(({ id }) => id);
	const rows = ids.length
		? await tx
				.select({ id: dealVersions.dealId, versionId: dealVersions.id })
				.from(dealVersions)
				.where(and(isNull(dealVersions.validTo), isOneOf(dealVersions.dealId, ids)))
		: [];
	const newest = new Map(rows.map((row) => [row.id, row]));
	const done: { id: string; versionId: number }[] = [];
	const audit: AuditEntry[] = [];
	for (const to of new Set(deals.map((deal) => deal.to))) {
		const targets = deals.flatMap((deal) => (deal.to === to ? (newest.get(deal.id) ?? []) : []));
		const edited = await applyEdit(tx, context, targets, { ownerId: to });
		done.push(...edited.done.map(({ id, versionId }) => ({ id, versionId })));
		audit.push(...edited.audit);
	}
	return { done, audit };
}

/** Gives planned rounds to others or ends them; answers the plans as they were. */
async function passPlans(
	tx: Tx,
	context: Context,
	from: string,
	plans: readonly { readonly id: string; readonly to: string | null }[],
): Promise<HandedOver["plans"]> {
	if (!plans.length) return [];
	const rows = await tx
		.select()
		.from(roundPlans)
		.where(
			and(
				isOneOf(
					roundPlans.id,
					plans.map(({ id }) => id),
				),
				or(eq(roundPlans.byId, from), eq(roundPlans.whose, `person:${from}`)),
			),
		)
		.for("update");
	for (const { id, to } of plans) {
		const row = rows.find((one) => one.id === id);
		if (!row) throw new Fault(409, "Gone", "One of these planned rounds was deleted since. Reload the list.");
		if (to === null) await tx.delete(roundPlans).where(eq(roundPlans.id, id));
		else {
			if (reached(context, to).person.role !== "manager") throw new Fault(422, "Holds no rounds", "A planned round goes to a manager.");
			await tx
				.update(roundPlans)
				.set({ byId: to, version: row.version + 1 })
				.where(eq(roundPlans.id, id));
		}
	}
	return rows;
}

async function setLastDay(tx: Tx, { now }: Context, person: OrganisationState["people"][number], lastDay: string | null): Promise<void> {
	const began = isoOrNull(person.activeFrom);
	if (lastDay && began && lastDay < began)
		throw new Fault(422, "End is before start", `${person.name} can’t have left on ${lastDay}, before they began on ${began}.`);
	await tx.update(people).set({ activeTo: lastDay }).where(eq(people.id, person.id));
	if (person.role === "ops") await demandOps(tx, formatDay(now.day));
}
