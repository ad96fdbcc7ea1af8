import { eq } from "drizzle-orm";
import { z } from "zod";
import { type Day, formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { roundPlans, rounds } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { personName } from "@/platform/names";
import { keptName } from "@/platform/sharing";
import { resolveViewpoint } from "@/platform/viewpoint";
import { SORTINGS } from "../table/kinds";
import { demandNotHeld } from "./startRound";
import { announce, lastHeld, planById, runningRound, scopeOfRound, whoseWords } from "./stored";

/** A round that comes again. */
export interface PlanView {
	readonly id: string;
	readonly name: string;
	readonly whose: string;
	readonly whoseKey: string;
	readonly weekday: number;
	readonly sorted: string;
	readonly calmToo: boolean;
	readonly version: number;
	readonly by: string;
	/** the next day it is held; a holiday moves it to the next working day */
	readonly next: string;
	/** it is due today, and none was started yet */
	readonly due: boolean;
	readonly mayHold: boolean;
}

const THURSDAY_FIRST = 3;
/** 1 is Monday; the first of 1970 was a Thursday. */
const weekdayOf = (day: Day): number => ((((day + THURSDAY_FIRST) % 7) + 7) % 7) + 1;

/** The next day from a day on that a plan is held: its day of the week, or the working day after it where that is none. */
export function nextOf({ organisation }: Pick<Context, "organisation">, weekday: number, from: Day): Day {
	const { calendar } = organisation.company.rules;
	// One that a holiday has moved past the week's own day may be held today.
	for (let day = from - 7; ; day++) {
		if (weekdayOf(day) !== weekday) continue;
		const held = calendar.isWorking(day) ? day : calendar.add(day, 1);
		if (held >= from) return held;
	}
}

/** The plans of rounds that one takes part in, by their next day. */
export const readPlans = query("rounds.plans", "readRounds", async (context: Context): Promise<PlanView[]> => {
	const { db } = connection();
	const { organisation, now, actor } = context;
	const rows = await db.select().from(roundPlans);
	const last = await lastHeld(db, context);
	const plans: PlanView[] = [];
	for (const plan of rows) {
		if (!scopeOfRound(context, { kind: "round", whose: plan.whose, startedById: plan.byId })) continue;
		const next = nextOf(context, plan.weekday, last.get(plan.id) === now.day ? now.day + 1 : now.day);
		plans.push({
			id: plan.id,
			name: plan.name,
			whose: whoseWords(context, plan),
			whoseKey: plan.whose,
			weekday: plan.weekday,
			sorted: plan.sorted,
			calmToo: plan.calmToo,
			version: plan.version,
			by: personName(organisation, plan.byId) ?? "Somebody",
			next: formatDay(next),
			due: next === now.day,
			mayHold: actor.person.role === "manager",
		});
	}
	return plans.sort((a, b) => a.next.localeCompare(b.next) || a.name.localeCompare(b.name));
});

/** How many planned rounds are due today and not held yet: what stands beside *Rounds*. */
export const countDueRounds = query("rounds.countDue", "readRounds", async (context: Context): Promise<number> => {
	if (context.actor.person.role !== "manager") return 0;
	return (await readPlans(context)).filter(({ due }) => due).length;
});

/** Plans a round that comes again on a day of the week, or changes a plan that was seen. */
export const savePlan = command({
	name: "rounds.savePlan",
	right: "holdRounds",
	input: z.object({
		id: idSchema.nullable(),
		version: z.number().int().default(0),
		name: keptName("plan"),
		whose: z.string().min(1).max(300),
		weekday: z.number().int().min(1).max(5),
		sorted: z.enum(SORTINGS).default("attention"),
		calmToo: z.boolean().default(false),
	}),
	async run({ context, input: { id, version, ...given }, tx }) {
		resolveViewpoint(context, { whose: given.whose });
		const [before] = id === null ? [] : await tx.select().from(roundPlans).where(eq(roundPlans.id, id)).for("update");
		if (id !== null && (!before || !scopeOfRound(context, { kind: "round", whose: before.whose, startedById: before.byId }))) throw notFound("plan", id);
		if (before && before.version !== version)
			throw new Fault(412, "Changed by someone else", "Someone changed this plan after you opened it. Reload the page.");
		const row = { ...given, id: id ?? newId("plan"), version: version + 1, byId: before?.byId ?? context.actor.person.id };
		await tx
			.insert(roundPlans)
			.values(row)
			.onConflictDoUpdate({ target: roundPlans.id, set: { ...given, version: row.version } });
		return {
			result: { id: row.id, version: row.version },
			touched: [],
			audit: { action: before ? "round plan changed" : "round plan created", subject: row.id, detail: { before: before ?? null, after: given } },
		};
	},
});

/** Makes a round that was started without a plan the one that is planned; null makes it unplanned again. */
export const makePlanned = command({
	name: "rounds.makePlanned",
	right: "holdRounds",
	input: z.object({ id: idSchema, planId: idSchema.nullable() }),
	alone: true,
	async run({ context, input: { id, planId }, tx }) {
		const round = await runningRound(tx, context, id);
		if (round.kind !== "round") throw new Fault(409, "A walk", "A walk can’t be planned.");
		const plan = planId === null ? null : await planById(tx, context, planId);
		if (plan) {
			if (round.planId) throw new Fault(409, "Planned already", "This round already belongs to a plan.");
			await demandNotHeld(tx, context, plan.id);
		}
		await tx
			.update(rounds)
			.set({ planId, ...(plan ? { name: plan.name } : {}) })
			.where(eq(rounds.id, id));
		await announce(tx, context, round);
		return {
			result: { id, name: plan?.name ?? round.name },
			touched: "nothing",
			audit: {
				action: plan ? "round linked to its plan" : "round unlinked from its plan",
				subject: id,
				detail: { before: round.name, after: plan?.name ?? round.name, plan: planId },
			},
		};
	},
});

/** Takes a plan away; rounds that were held by it stay. */
export const removePlan = command({
	name: "rounds.removePlan",
	right: "holdRounds",
	input: z.object({ id: idSchema }),
	async run({ context, input: { id }, tx }) {
		const row = await planById(tx, context, id);
		await tx.delete(roundPlans).where(eq(roundPlans.id, id));
		return { result: { plan: row }, touched: [], audit: { action: "round plan deleted", subject: id, detail: { name: row.name } } };
	},
});
