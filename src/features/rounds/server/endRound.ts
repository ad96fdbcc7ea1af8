import { and, count, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { roundCalls, roundDeals, rounds, tasks } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { announce, callsOf, runningRound, scopeOfRound } from "./stored";
import { totalsSeen, totalsToKeep } from "./totals";

/** Ends a round: what it comes to is kept, and its minutes are there. Those concerned are told. */
export const endRound = command({
	name: "rounds.end",
	right: "holdRounds",
	input: z.object({ id: idSchema }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		const after = totalsToKeep(context, round, await callsOf(tx, round.id));
		await tx
			.update(rounds)
			.set({ endedAt: new Date(context.now.instant), endedById: context.actor.person.id, after, endedReally: new Date() })
			.where(eq(rounds.id, round.id));
		await announce(tx, context, round);
		return {
			result: { id: round.id, after: totalsSeen(context, round, after).totals },
			touched: "nothing",
			audit: { action: "round ended", subject: round.id, detail: { name: round.name } },
		};
	},
});

/** Opens a round again that has ended, as long as none was started over the same people since. */
export const reopenRound = command({
	name: "rounds.reopen",
	right: "holdRounds",
	input: z.object({ id: idSchema }),
	async run({ context, input, tx }) {
		const [round] = await tx.select().from(rounds).where(eq(rounds.id, input.id)).for("update");
		if (!round || !scopeOfRound(context, round)) throw notFound("round", input.id);
		if (!round.endedAt) throw new Fault(409, "Still running", "This round hasn’t ended.");
		const [other] = await tx
			.select({ name: rounds.name })
			.from(rounds)
			.where(and(eq(rounds.whose, round.whose), eq(rounds.kind, round.kind), isNull(rounds.endedAt)));
		if (other) throw new Fault(409, "Another round is running", `${other.name} is running for the same people; end it first.`);
		await tx.update(rounds).set({ endedAt: null, endedById: null, after: null, endedReally: null }).where(eq(rounds.id, round.id));
		await announce(tx, context, round);
		return { result: { id: round.id }, touched: "nothing", audit: { action: "round reopened", subject: round.id, detail: { name: round.name } } };
	},
});

/** Takes a round away in which nothing was said yet, by whoever started it. */
export const dropRound = command({
	name: "rounds.drop",
	right: "holdRounds",
	input: z.object({ id: idSchema }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		if (round.startedById !== context.actor.person.id) throw new Fault(403, "Not allowed", "Only the person who started a round can delete it.");
		const [calls] = await tx.select({ n: count() }).from(roundCalls).where(eq(roundCalls.roundId, round.id));
		const notes = (await tx.select({ note: roundDeals.note }).from(roundDeals).where(eq(roundDeals.roundId, round.id))).filter(({ note }) => note);
		const promised = await tx.$count(tasks, eq(tasks.roundId, round.id));
		if ((calls?.n ?? 0) > 0 || promised > 0 || notes.length || round.note)
			throw new Fault(409, "Round has entries", "This round already has calls, decisions, notes or tasks; end it instead.");
		await tx.delete(rounds).where(eq(rounds.id, round.id));
		return { result: {}, touched: "nothing", audit: { action: "round deleted", subject: round.id, detail: { name: round.name } } };
	},
});
