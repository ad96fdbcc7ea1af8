import { and, desc, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { byAttention } from "@/core/attention/attention";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { connection } from "@/data/db";
import { rounds } from "@/data/schema";
import { command, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reaches, reachOf } from "@/platform/reach";
import { begin, inQueue } from "./startRound";

/**
 * What asks for a manager: the open deals within reach at *act*, and those that are lit and weren't on the day of their
 * last walk. Those at rest aren't among them.
 */
export function askingDeals(context: Context, last: number | null) {
	const { organisation, actor, now } = context;
	const reach = reachOf(organisation, actor);
	const before = last === null || last >= now.day ? null : surveyOn(organisation.company, last);
	return surveyOn(organisation.company, now.day)
		.deals.flatMap((seen) => {
			if (seen?.status !== "open" || !reaches(reach, seen.owner) || seen.attention.level === "calm") return [];
			const newly = before !== null && (before.deals[seen.deal]?.attention.level ?? "calm") === "calm";
			return seen.attention.level === "act" || newly ? [seen] : [];
		})
		.sort((a, b) =>
			byAttention({ score: a.attention.score, amountBase: a.amountBase, id: "" }, { score: b.attention.score, amountBase: b.amountBase, id: "" }),
		);
}

async function lastWalk(context: Context): Promise<number | null> {
	const [row] = await connection()
		.db.select({ at: rounds.startedAt })
		.from(rounds)
		.where(and(eq(rounds.kind, "walk"), eq(rounds.startedById, context.actor.person.id)))
		.orderBy(desc(rounds.startedAt))
		.limit(1);
	return row ? context.organisation.company.rules.zone.dayOf(row.at.getTime()) : null;
}

/** What a walk would hold today, and the one that runs, if one does. */
export const readWalk = query("rounds.walk", "readRounds", async (context: Context) => {
	if (context.actor.person.role !== "manager") return null;
	const [running] = await connection()
		.db.select({ id: rounds.id })
		.from(rounds)
		.where(and(eq(rounds.kind, "walk"), eq(rounds.startedById, context.actor.person.id), isNull(rounds.endedAt)));
	const last = await lastWalk(context);
	return { running: running?.id ?? null, deals: askingDeals(context, last).length, last: last === null ? null : formatDay(last) };
});

/** Starts a manager's own walk; one that still runs from another day is ended by it, with what was decided in it. */
export const startWalk = command({
	name: "rounds.startWalk",
	right: "holdRounds",
	input: z.object({}),
	async run({ context, tx }) {
		const { person } = context.actor;
		const found = askingDeals(context, await lastWalk(context));
		if (!found.length) throw new Fault(409, "Nothing needs you", "None of your deals is at act, and none was newly lit since your last walk.");
		await tx
			.update(rounds)
			.set({ endedAt: new Date(context.now.instant), endedById: person.id, endedReally: new Date() })
			.where(and(eq(rounds.kind, "walk"), eq(rounds.startedById, person.id), isNull(rounds.endedAt)));
		const round = await begin(tx, context, {
			kind: "walk",
			name: `Walk, ${shortDay(context.now.day)}`,
			whose: `person:${person.id}`,
			due: formatDay(context.now.day).slice(0, 7),
			sorted: "attention",
			planId: null,
			ids: inQueue(context, found, "attention", false),
		});
		return {
			result: { id: round.id, deals: found.length },
			touched: "nothing",
			audit: { action: "walk started", subject: round.id, detail: { name: round.name, deals: found.length } },
		};
	},
});
