import { and, desc, eq, isNotNull } from "drizzle-orm";
import { z } from "zod";
import { type Ask, asksOf, preparedOf } from "@/core/rounds/asks";
import { isoOrNull } from "@/core/time/day";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { roundDeals, roundReady, rounds, tasks } from "@/data/schema";
import { listedDeals } from "@/features/deals";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { idSchema } from "@/platform/input";
import { accountName, chosenName, dealName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";
import { resolveViewpoint, type Viewpoint } from "@/platform/viewpoint";
import { readPlans } from "./plans";

/** What the next round will ask about one deal. */
export interface Preparing {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly amount: number;
	readonly level: string;
	readonly score: number;
	readonly close: string | null;
	readonly asks: readonly Ask[];
	/** its rep has said that they are ready for it, since the last round it was in */
	readonly ready: boolean;
}

export interface Preparation {
	/** the next planned round the person is in, and its day */
	readonly next: { readonly name: string; readonly on: string } | null;
	readonly deals: readonly Preparing[];
	readonly prepared: number;
}

/** What the next round will ask of somebody about their deals of this period, the most pressing first. */
export const readPreparation = query("rounds.preparation", "readRounds", async (context: Context): Promise<Preparation> => {
	const viewpoint = resolveViewpoint(context, { whose: `person:${context.actor.person.id}` });
	const deals = await preparing(context, viewpoint);
	const [next] = await readPlans(context);
	return {
		next: next ? { name: next.name, on: next.next } : null,
		deals: deals.map(({ owner: _, ...deal }) => deal),
		prepared: deals.filter(({ ready, asks }) => ready || !asks.length).length,
	};
});

/** Who has prepared for the next round, and how far: by rep within a viewpoint. */
export const readPrepared = query("rounds.prepared", "readRounds", async (context: Context, viewpoint: Viewpoint) => {
	const deals = await preparing(context, viewpoint);
	const { people } = context.organisation;
	return preparedOf(deals.map(({ owner, asks, ready }) => ({ owner, asks: asks.length, ready }))).map(({ owner, ...counts }) => ({
		id: people[owner]?.id ?? "",
		name: chosenName(context.organisation, owner),
		...counts,
	}));
});

async function preparing(context: Context, viewpoint: Viewpoint): Promise<(Preparing & { owner: number })[]> {
	const { organisation, now } = context;
	const { db } = connection();
	const { company } = organisation;
	const listed = listedDeals(context, viewpoint);
	const ids = listed.map(({ deal }) => organisation.deals[deal]?.id ?? "");
	if (!ids.length) return [];
	const promises = await db
		.select({ id: tasks.id })
		.from(tasks)
		.where(and(isNotNull(tasks.roundId), isOneOf(tasks.dealId, ids)));
	const promised = new Set(promises.map(({ id }) => id));
	const lastRound = new Map<string, number>();
	for (const { dealId, at } of await db
		.select({ dealId: roundDeals.dealId, at: rounds.endedAt })
		.from(roundDeals)
		.innerJoin(rounds, eq(rounds.id, roundDeals.roundId))
		.where(and(eq(rounds.kind, "round"), isNotNull(rounds.endedAt), isOneOf(roundDeals.dealId, ids)))
		.orderBy(desc(rounds.endedAt)))
		if (!lastRound.has(dealId) && at) lastRound.set(dealId, at.getTime());
	const ready = new Map(
		(await db.select().from(roundReady).where(isOneOf(roundReady.dealId, ids))).map(({ dealId, personId, at }) => [`${dealId} ${personId}`, at.getTime()]),
	);
	return listed
		.map((seen) => {
			const id = organisation.deals[seen.deal]?.id ?? "";
			const said = ready.get(`${id} ${organisation.people[seen.owner]?.id}`);
			return {
				id,
				name: dealName(organisation, seen.deal),
				account: accountName(organisation, seen.deal),
				amount: seen.amountBase,
				level: seen.attention.level,
				score: seen.attention.score,
				close: isoOrNull(seen.close),
				asks: asksOf(company, seen, now.day, promised),
				ready: said !== undefined && said > (lastRound.get(id) ?? 0),
				owner: seen.owner,
			};
		})
		.sort((a, b) => b.score - a.score || b.amount - a.amount || (a.id < b.id ? -1 : 1));
}

/** Says that one is ready to be asked about a deal of one's own, or takes it back. */
export const sayReady = command({
	name: "rounds.sayReady",
	right: "prepareRounds",
	input: z.object({ dealId: idSchema, ready: z.boolean() }),
	async run({ context, input: { dealId, ready }, tx }) {
		reachDeal(context, dealId);
		const key = { dealId, personId: context.actor.person.id };
		if (ready) {
			const at = new Date(context.now.instant);
			await tx
				.insert(roundReady)
				.values({ ...key, at })
				.onConflictDoUpdate({ target: [roundReady.dealId, roundReady.personId], set: { at } });
		} else await tx.delete(roundReady).where(and(eq(roundReady.dealId, dealId), eq(roundReady.personId, key.personId)));
		return { result: {}, touched: [], audit: [] };
	},
});
