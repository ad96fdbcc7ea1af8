import { desc, eq, isNotNull } from "drizzle-orm";
import { CALLS, type Call } from "@/core/rounds/calls";
import { cameTrue, type Held, heldOf } from "@/core/rounds/held";
import { surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import { connection } from "@/data/db";
import { roundCalls, rounds } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import { calledOf, periodOf, scopeOfRound } from "./stored";

export interface HeldLine {
	readonly id: string;
	readonly name: string;
	readonly held: Held;
	/** deals that its rep had in commit when they were called, and what came of them */
	readonly commit: { readonly called: number; readonly true: number; readonly false: number; readonly open: number };
}

export interface HeldView {
	/** by whoever made the calls, and by whose deals they were */
	readonly managers: readonly HeldLine[];
	readonly reps: readonly HeldLine[];
	readonly calls: number;
}

/** A call of a round that has ended, and whether it came true as seen on a day (null: not to be told yet). */
export interface CallTold {
	readonly dealId: string;
	readonly call: Call;
	readonly by: string;
	/** the id of whoever owned the deal then */
	readonly of: string | null;
	readonly day: Day;
	readonly amount: number;
	readonly came: boolean | null;
	/** the same of its rep's word, where that was commit; undefined where it wasn't */
	readonly inCommit: boolean | null | undefined;
}

/** The last call on each deal of each round that had ended by a day, of deals that the asker reaches. The use case checks the rights. */
export async function callsTold(context: Context, day: Day): Promise<CallTold[]> {
	const { organisation } = context;
	const rows = await connection()
		.db.selectDistinctOn([roundCalls.roundId, roundCalls.dealId], { call: roundCalls, round: rounds })
		.from(roundCalls)
		.innerJoin(rounds, eq(rounds.id, roundCalls.roundId))
		.where(isNotNull(rounds.endedAt))
		.orderBy(roundCalls.roundId, roundCalls.dealId, desc(roundCalls.id));
	const { zone } = organisation.company.rules;
	const survey = surveyOn(organisation.company, day);
	return rows.flatMap(({ call, round }) => {
		const called = calledOf(call);
		const seen = survey.deals[organisation.dealIndex.get(call.dealId) ?? -1];
		if (!called || !seen || !round.endedAt || zone.dayOf(round.endedAt.getTime()) > day) return [];
		if (!scopeOfRound(context, round) || !reachesToday(context, call.dealId)) return [];
		const period = periodOf(context, round);
		const came = { status: seen.status, closedDay: seen.closedDay };
		return [
			{
				dealId: call.dealId,
				call: CALLS.find((one): one is Call => one === call.call) as Call,
				by: call.byId,
				of: call.ownerId,
				day: zone.dayOf(call.at.getTime()),
				amount: call.amountBase,
				came: cameTrue(called, period, came, day),
				inCommit: call.category === "commit" ? cameTrue({ call: "holds", to: called.to }, period, came, day) : undefined,
			},
		];
	});
}

/** How the calls of rounds that have ended held against what came, and reps' commits beside them, in counts. */
export const readHeld = query("rounds.held", "readRounds", async (context: Context): Promise<HeldView> => {
	const { organisation, now } = context;
	const told = await callsTold(context, now.day);
	const lines = (who: "by" | "of"): HeldLine[] => {
		const ids = [...new Set(told.flatMap((one) => one[who] ?? []))];
		return ids
			.map((id) => {
				const own = told.filter((one) => one[who] === id);
				const commits = own.flatMap(({ inCommit }) => (inCommit === undefined ? [] : [inCommit]));
				return {
					id,
					name: personName(organisation, id) ?? id,
					held: heldOf(own),
					commit: {
						called: commits.length,
						true: commits.filter((one) => one === true).length,
						false: commits.filter((one) => one === false).length,
						open: commits.filter((one) => one === null).length,
					},
				};
			})
			.sort((a, b) => a.name.localeCompare(b.name));
	};
	return { managers: lines("by"), reps: lines("of"), calls: told.length };
});
