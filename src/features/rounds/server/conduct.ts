import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { roundDeals, rounds } from "@/data/schema";
import { give, givenAudit, lineSchema, touchedBy } from "@/features/tasks";
import { command } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";
import { announce, dealOfRound, queueOf, runningRound } from "./stored";

const note = z.string().trim().max(5000, "A note has at most 5 000 letters.");

/** Goes to a deal of a round; whoever follows it goes along. */
export const goTo = command({
	name: "rounds.goTo",
	right: "holdRounds",
	input: z.object({ id: idSchema, dealId: idSchema }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		await dealOfRound(tx, context, round, input.dealId);
		if (round.atDeal !== input.dealId) {
			await tx.update(rounds).set({ atDeal: input.dealId }).where(eq(rounds.id, round.id));
			await announce(tx, context, round);
		}
		return { result: {}, touched: "nothing", audit: [] };
	},
});

/**
 * Notes something of a deal in a round, or (without one) of the round itself. `before` is the note that was seen.
 *
 * @throws Fault 412 where somebody has written since; their words are in the fault, so that nothing is lost
 */
export const noteRound = command({
	name: "rounds.note",
	right: "prepareRounds",
	input: z.object({ id: idSchema, dealId: idSchema.nullable(), note, before: z.string().max(5000) }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		const row = input.dealId === null ? null : await dealOfRound(tx, context, round, input.dealId);
		if (!row && context.actor.person.role !== "manager") throw new Fault(403, "Not allowed", "Only managers can write notes on the round as a whole.");
		const stands = row ? row.note : round.note;
		if (stands !== input.before && stands !== input.note)
			throw new Fault(412, "Changed by someone else", `Someone else wrote here: “${stands}”. Yours wasn’t saved; combine the two.`, { note: stands });
		if (row)
			await tx
				.update(roundDeals)
				.set({ note: input.note })
				.where(and(eq(roundDeals.roundId, round.id), eq(roundDeals.dealId, row.dealId)));
		else await tx.update(rounds).set({ note: input.note }).where(eq(rounds.id, round.id));
		await announce(tx, context, round);
		return {
			result: { note: input.note },
			touched: "nothing",
			audit: { action: "round note written", subject: input.dealId ?? round.id, detail: { round: round.name, before: stands, after: input.note } },
		};
	},
});

/** Puts a deal of a round at another place of its queue, counted from 0. */
export const placeDeal = command({
	name: "rounds.place",
	right: "holdRounds",
	input: z.object({ id: idSchema, dealId: idSchema, place: z.number().int().min(0).max(500) }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		await dealOfRound(tx, context, round, input.dealId);
		const queue = (await queueOf(tx, round.id)).map(({ dealId }) => dealId).filter((id) => id !== input.dealId);
		queue.splice(input.place, 0, input.dealId);
		await tx.execute(sql`
			update round_deals set place = placed.at - 1
			from jsonb_array_elements_text(${JSON.stringify(queue)}::jsonb) with ordinality as placed (deal_id, at)
			where round_id = ${round.id} and round_deals.deal_id = placed.deal_id`);
		await tx.update(rounds).set({ sorted: "hand" }).where(eq(rounds.id, round.id));
		await announce(tx, context, round);
		return { result: {}, touched: "nothing", audit: [] };
	},
});

/** Takes a deal into a round, or out of its queue; what was called of it stays in its history. */
export const takeDeal = command({
	name: "rounds.takeDeal",
	right: "holdRounds",
	input: z.object({ id: idSchema, dealId: idSchema, into: z.boolean() }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		reachDeal(context, input.dealId);
		if (input.into) {
			const queue = await queueOf(tx, round.id);
			await tx.insert(roundDeals).values({ roundId: round.id, dealId: input.dealId, place: queue.length }).onConflictDoNothing();
		} else {
			await dealOfRound(tx, context, round, input.dealId);
			await tx.delete(roundDeals).where(and(eq(roundDeals.roundId, round.id), eq(roundDeals.dealId, input.dealId)));
		}
		await announce(tx, context, round);
		return {
			result: {},
			touched: "nothing",
			audit: { action: input.into ? "deal added to a round" : "deal removed from a round", subject: input.dealId, detail: { round: round.name } },
		};
	},
});

/** Gives tasks that are agreed in a round: promises, which the next round of their deals opens with. */
export const promise = command({
	name: "rounds.promise",
	right: "prepareRounds",
	input: z.object({ id: idSchema, lines: z.array(lineSchema).min(1, "Nothing to promise.").max(50, "At most 50 promises at once.") }),
	async run({ context, input, tx }) {
		const round = await runningRound(tx, context, input.id);
		for (const { dealId } of input.lines) if (dealId !== null) await dealOfRound(tx, context, round, dealId);
		const given = await give(tx, context, input.lines, round.id);
		await announce(tx, context, round);
		return { result: given, touched: touchedBy(given.tasks), audit: givenAudit(given) };
	},
});
