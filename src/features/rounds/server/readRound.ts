import { desc, eq } from "drizzle-orm";
import { RULES } from "@/core/flags/list";
import { categoryOf } from "@/core/inspect";
import { surveyOn } from "@/core/survey";
import { isoOrNull } from "@/core/time/day";
import { periodWords } from "@/core/time/words";
import { connection } from "@/data/db";
import { roundCalls, rounds } from "@/data/schema";
import { readSheet, type SheetView } from "@/features/sheet";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort, personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import { readPlans } from "./plans";
import { type PromiseView, promisesOf } from "./promises";
import { startedOn } from "./startRound";
import { callsOf, periodOf, queueOf, roundById, roundsBefore, type StoredCall, type StoredRound, whoseWords } from "./stored";
import { type TotalsView, totalsSeen, totalsToday } from "./totals";

/** A call as it is shown. */
export interface CallView {
	readonly id: number;
	readonly call: string;
	readonly to: string | null;
	readonly why: string | null;
	readonly competitor: string | null;
	readonly left: string;
	readonly by: string;
	readonly on: string;
}

export interface QueueDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly amount: number;
	readonly level: string;
	readonly score: number;
	readonly category: string | null;
	readonly close: string | null;
	readonly status: string;
	readonly owner: string;
	readonly ownerId: string | null;
	readonly note: string;
	/** newest call's id, also of one that was taken back: a further call names it */
	readonly newest: number | null;
	readonly call: CallView | null;
	readonly resting: boolean;
}

/** The deal that a round is looking at. */
export interface RoundCurrent {
	readonly id: string;
	readonly sheet: SheetView;
	/** what was promised of it in rounds before, still open or settled since the last one */
	readonly promises: readonly PromiseView[];
	/** what was promised in this one */
	readonly agreed: readonly PromiseView[];
	/** its calls in rounds before, the newest first */
	readonly history: readonly (CallView & { readonly round: string; readonly category: string | null; readonly amount: number })[];
	readonly before: { readonly id: string; readonly name: string; readonly on: string; readonly note: string } | null;
}

export interface RoundView {
	readonly id: string;
	readonly kind: string;
	readonly name: string;
	readonly whose: string;
	readonly period: string;
	readonly startedBy: string;
	readonly on: string;
	readonly ended: boolean;
	readonly note: string;
	readonly sorted: string;
	/** the deal that those who hold it are at */
	readonly at: string | null;
	readonly queue: readonly QueueDeal[];
	/** deals that are others' now */
	readonly hidden: number;
	readonly totals: TotalsView;
	/** the totals are of the people they see alone, of those that the round is over */
	readonly partial: boolean;
	readonly current: RoundCurrent | null;
	readonly currency: string;
	readonly mayHold: boolean;
	readonly mayNote: boolean;
	readonly flagNames: Readonly<Record<string, string>>;
	/** planned rounds that are due today and weren't started, where this one isn't planned itself: it may be made to be one */
	readonly due: readonly { readonly id: string; readonly name: string }[];
}

/** A round for whoever takes part in it, at one of its deals: the one that is asked for, or where those are who hold it. */
export const readRound = query("rounds.read", "readRounds", async (context: Context, id: string, dealId?: string): Promise<RoundView> => {
	const { organisation, actor } = context;
	const { db } = connection();
	const round = await roundById(db, context, id);
	const rows = await queueOf(db, round.id);
	const calls = await callsOf(db, round.id);
	const mine = rows.filter((row) => reachesToday(context, row.dealId));
	const at = [dealId, round.atDeal, mine[0]?.dealId].find((one) => one && mine.some((row) => row.dealId === one)) ?? null;
	return {
		id: round.id,
		kind: round.kind,
		name: round.name,
		whose: whoseWords(context, round),
		period: periodWords(periodOf(context, round)),
		startedBy: personName(organisation, round.startedById) ?? "Somebody",
		on: startedOn(context, round),
		ended: round.endedAt !== null,
		note: round.note,
		sorted: round.sorted,
		at: round.atDeal,
		queue: mine.map((row) => queueDeal(context, row, calls.get(row.dealId))),
		hidden: rows.length - mine.length,
		totals: totalsToday(context, round, calls),
		partial: totalsSeen(context, round, round.before).partial,
		current: at ? await currentOf(context, round, at) : null,
		currency: organisation.company.rules.rates.base,
		mayHold: may(actor, "holdRounds") && round.endedAt === null,
		mayNote: may(actor, "prepareRounds") && round.endedAt === null,
		flagNames: Object.fromEntries(RULES.map(({ code, name }) => [code, name])),
		due: round.kind === "round" && !round.planId && !round.endedAt && may(actor, "holdRounds") ? await duePlans(context) : [],
	};
});

const duePlans = async (context: Context) => (await readPlans(context)).filter(({ due }) => due).map(({ id, name }) => ({ id, name }));

function queueDeal(context: Context, row: { dealId: string; note: string }, stored: StoredCall | undefined): QueueDeal {
	const { organisation, now } = context;
	const { company, dealIndex } = organisation;
	const deal = dealIndex.get(row.dealId) ?? -1;
	const seen = surveyOn(company, now.day).deals[deal];
	return {
		id: row.dealId,
		name: dealName(organisation, deal),
		account: accountName(organisation, deal),
		amount: seen?.amountBase ?? 0,
		level: seen?.attention.level ?? "calm",
		score: seen?.attention.score ?? 0,
		category: seen ? categoryOf(company, seen) : null,
		close: seen ? isoOrNull(seen.close) : null,
		status: seen?.status ?? "removed",
		owner: ownerShort(organisation, seen?.owner ?? -1),
		ownerId: organisation.people[seen?.owner ?? -1]?.id ?? null,
		note: row.note,
		newest: stored?.id ?? null,
		call: callView(context, stored),
		resting: Boolean(seen?.rest),
	};
}

/** A stored call in words; null for none, and for one that was taken back. */
export function callView({ organisation }: Context, stored: StoredCall | undefined): CallView | null {
	if (!stored?.call) return null;
	const { id, call, toDay, why, competitor, left, byId, at } = stored;
	const { zone } = organisation.company.rules;
	return { id, call, to: toDay, why, competitor, left, by: personName(organisation, byId) ?? "Somebody", on: isoOrNull(zone.dayOf(at.getTime())) ?? "" };
}

async function currentOf(context: Context, round: StoredRound, dealId: string): Promise<RoundCurrent> {
	const { now } = context;
	const { db } = connection();
	const before = (await roundsBefore(context, round, [dealId])).get(dealId) ?? null;
	const on = before ? startedOn(context, before) : null;
	const against = on !== null && on < (isoOrNull(now.day) ?? "") ? on : "";
	const promises = await promisesOf(context, { deals: [dealId] }, now.day);
	const rows = await db
		.select({ call: roundCalls, round: rounds })
		.from(roundCalls)
		.innerJoin(rounds, eq(rounds.id, roundCalls.roundId))
		.where(eq(roundCalls.dealId, dealId))
		.orderBy(desc(roundCalls.id));
	const seen = new Set<string>();
	const history = rows.flatMap(({ call, round: of }) => {
		// Of each round the call that held, not those that were changed in it; what a walk decided is no call.
		if (of.id === round.id || of.kind !== "round" || seen.has(of.id)) return [];
		seen.add(of.id);
		const shown = callView(context, call);
		return shown ? [{ ...shown, round: of.name, category: call.category, amount: call.amountBase }] : [];
	});
	const noteBefore = before ? ((await queueOf(db, before.id)).find((row) => row.dealId === dealId)?.note ?? "") : "";
	return {
		id: dealId,
		sheet: await readSheet(context, dealId, "", against),
		// Those of the last round, and of earlier ones what wasn't settled by then.
		promises: promises.filter(
			({ roundId, doneOn }) => roundId !== round.id && (before === null || roundId === before.id || doneOn === null || (on !== null && doneOn >= on)),
		),
		agreed: promises.filter(({ roundId }) => roundId === round.id),
		history,
		before: before && on ? { id: before.id, name: before.name, on, note: noteBefore } : null,
	};
}
