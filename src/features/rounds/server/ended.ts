import { and, asc, desc, eq, gt, inArray, isNotNull } from "drizzle-orm";
import { connection, type Sql } from "@/data/db";
import { roundDeals, roundPlans, rounds, tasks } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { scopeOfRound } from "./stored";

/** Rounds that have ended since an instant by the server's clock, with their deals. */
export async function roundsEndedSince(db: Sql, since: Date) {
	const ended = await db
		.select()
		.from(rounds)
		.where(and(isNotNull(rounds.endedReally), gt(rounds.endedReally, since)))
		.orderBy(asc(rounds.endedReally));
	const ids = ended.map(({ id }) => id);
	const deals = ids.length ? await db.select().from(roundDeals).where(inArray(roundDeals.roundId, ids)) : [];
	const promised = ids.length ? await db.select({ roundId: tasks.roundId, assigneeId: tasks.assigneeId }).from(tasks).where(inArray(tasks.roundId, ids)) : [];
	return ended.map((round) => ({
		round,
		deals: deals.filter(({ roundId }) => roundId === round.id).map(({ dealId }) => dealId),
		promised: promised.flatMap(({ roundId, assigneeId }) => (roundId === round.id && assigneeId ? [assigneeId] : [])),
	}));
}

/** All weekly plans of rounds. */
export const plansOf = (db: Sql) => db.select().from(roundPlans);

/** The round of a plan that ended last, of those that the person asking takes part in; null where none has yet. */
export const lastEndedOf = query("rounds.lastEnded", "readRounds", async (context: Context, planId: string): Promise<string | null> => {
	const ended = await connection()
		.db.select()
		.from(rounds)
		.where(and(eq(rounds.planId, planId), isNotNull(rounds.endedAt)))
		.orderBy(desc(rounds.endedAt));
	return ended.find((round) => scopeOfRound(context, round))?.id ?? null;
});
