import { and, desc, eq } from "drizzle-orm";
import { z } from "zod";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { roundCalls, rounds } from "@/data/schema";
import { lookup } from "@/platform/command";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import { saidOf } from "./readMinutes";
import { readRestsOf } from "./readRests";
import { callView } from "./readRound";

/** What rounds have said of a deal, and how it rests: for its sheet. */
export const roundsOfDeal = lookup({
	name: "rounds.ofDeal",
	right: "readRounds",
	input: z.object({ dealId: idSchema }),
	async run({ context, input: { dealId } }) {
		const { seen } = reachDeal(context, dealId);
		const rows = await connection()
			.db.selectDistinctOn([roundCalls.roundId], { call: roundCalls, round: rounds })
			.from(roundCalls)
			.innerJoin(rounds, eq(rounds.id, roundCalls.roundId))
			.where(and(eq(roundCalls.dealId, dealId), eq(rounds.kind, "round")))
			.orderBy(roundCalls.roundId, desc(roundCalls.id));
		const calls = rows
			.sort((a, b) => b.call.id - a.call.id)
			.flatMap(({ call, round }) => {
				const shown = callView(context, call);
				return shown ? [{ id: shown.id, roundId: round.id, round: round.name, on: shown.on, by: shown.by, said: saidOf(shown), category: call.category }] : [];
			});
		return {
			calls,
			rests: await readRestsOf(context, [dealId]),
			today: formatDay(context.now.day),
			lit: seen.status === "open" && seen.flags.length > 0,
			mayRest: may(context.actor, "askRests"),
			mayGive: may(context.actor, "holdRounds"),
		};
	},
});
