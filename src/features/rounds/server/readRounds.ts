import { desc } from "drizzle-orm";
import { formatDay } from "@/core/time/day";
import { periodWords } from "@/core/time/words";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { roundCalls, roundDeals, rounds } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import type { RoundHead } from "./minutesView";
import { startedOn } from "./startRound";
import { periodOf, type StoredRound, scopeOfRound, whoseWords } from "./stored";
import { totalsSeen } from "./totals";

/** A round in a list. */
export interface RoundLine extends RoundHead {
	readonly deals: number;
	readonly called: number;
	/** what it moved the period by, as the calls say; null while it runs */
	readonly moved: number | null;
}

const MOST = 200;

/** What the people they see have been moved by; null while it runs, and where only the whole of others was kept. */
function movedBy(context: Context, round: StoredRound): number | null {
	const [before, after] = [round.before, round.after].map((kept) => kept && totalsSeen(context, round, kept).totals);
	return before && after ? after.byCalls - before.byCalls : null;
}

/** The rounds that one takes part in, the newest first; of walks one's own. */
export const readRounds = query(
	"rounds.list",
	"readRounds",
	async (context: Context): Promise<{ rounds: RoundLine[]; mayHold: boolean; today: string; currency: string }> => {
		const { db } = connection();
		const rows = (await db.select().from(rounds).orderBy(desc(rounds.startedAt)).limit(MOST)).filter((round) => scopeOfRound(context, round));
		const ids = rows.map(({ id }) => id);
		const deals = await db.select({ roundId: roundDeals.roundId, dealId: roundDeals.dealId }).from(roundDeals).where(isOneOf(roundDeals.roundId, ids));
		const newest = await db
			.selectDistinctOn([roundCalls.roundId, roundCalls.dealId])
			.from(roundCalls)
			.where(isOneOf(roundCalls.roundId, ids))
			.orderBy(roundCalls.roundId, roundCalls.dealId, desc(roundCalls.id));
		const called = new Set(newest.flatMap(({ roundId, dealId, call }) => (call ? [`${roundId} ${dealId}`] : [])));
		const mine = new Map<string, string[]>();
		for (const { roundId, dealId } of deals) if (reachesToday(context, dealId)) mine.set(roundId, [...(mine.get(roundId) ?? []), dealId]);
		return {
			rounds: rows
				// A round of which no deal is theirs any more is nothing to them, unless they held it.
				.filter((round) => (mine.get(round.id)?.length ?? 0) > 0 || round.startedById === context.actor.person.id)
				.map((round): RoundLine => {
					const own = mine.get(round.id) ?? [];
					return {
						id: round.id,
						kind: round.kind,
						name: round.name,
						whose: whoseWords(context, round),
						period: periodWords(periodOf(context, round)),
						on: startedOn(context, round),
						startedBy: personName(context.organisation, round.startedById) ?? "Somebody",
						ended: round.endedAt !== null,
						deals: own.length,
						called: own.filter((dealId) => called.has(`${round.id} ${dealId}`)).length,
						moved: movedBy(context, round),
					};
				}),
			mayHold: may(context.actor, "holdRounds"),
			today: formatDay(context.now.day),
			currency: context.organisation.company.rules.rates.base,
		};
	},
);
