import { and, asc, gte, inArray, lte } from "drizzle-orm";
import { categoryOf } from "@/core/inspect";
import { findCall } from "@/core/rounds/calls";
import { countFates } from "@/core/rounds/promise";
import { surveyOn } from "@/core/survey";
import { parseDay } from "@/core/time/day";
import { longDay, periodWords } from "@/core/time/words";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { audit } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort, personName } from "@/platform/names";
import { reachesToday } from "@/platform/reachDeal";
import { DECISION_WORDS, type Decision } from "../table/kinds";
import type { MinutesDeal, MinutesView } from "./minutesView";
import { promisesOf } from "./promises";
import { type CallView, callView } from "./readRound";
import { startedOn } from "./startRound";
import { callsOf, periodOf, queueOf, roundById, roundsBefore, whoseWords } from "./stored";
import { totalsSeen, totalsToKeep } from "./totals";

export { totalsHeading } from "../table/markdown";

/** What a call, or what a walk decided, is called; with its day and its reason. */
export function saidOf(call: CallView | null): string {
	if (!call) return "not called";
	const words = findCall(call.call)?.label ?? DECISION_WORDS[call.call as Decision] ?? call.call;
	const day = parseDay(call.to ?? "");
	return [`${words}${day === null ? "" : ` to ${longDay(day)}`}`, call.why, call.competitor ? `to ${call.competitor}` : null].filter(Boolean).join(": ");
}

/** The minutes of a round: calls, what was changed, what was promised, and what the period comes to before and after. */
export const readMinutes = query("rounds.minutes", "readRounds", async (context: Context, id: string): Promise<MinutesView> => {
	const { organisation, now } = context;
	const { db } = connection();
	const round = await roundById(db, context, id);
	const rows = await queueOf(db, id);
	const mine = rows.filter(({ dealId }) => reachesToday(context, dealId));
	const calls = await callsOf(db, id);
	const changed = await changesIn(
		context,
		round.beganReally,
		round.endedReally ?? new Date(),
		mine.map(({ dealId }) => dealId),
	);
	const ids = new Set(mine.map(({ dealId }) => dealId));
	const earlier = [...(await roundsBefore(context, round, [...ids])).values()].map((one) => one.id);
	const survey = surveyOn(organisation.company, now.day);
	const before = totalsSeen(context, round, round.before);
	const after = totalsSeen(context, round, round.after ?? totalsToKeep(context, round, calls));
	const promisedBefore = (await promisesOf(context, { rounds: [...new Set(earlier)] }, now.day)).filter(({ dealId }) => dealId === null || ids.has(dealId));
	return {
		id,
		kind: round.kind,
		name: round.name,
		whose: whoseWords(context, round),
		period: periodWords(periodOf(context, round)),
		on: startedOn(context, round),
		startedBy: personName(organisation, round.startedById) ?? "Somebody",
		ended: round.endedAt !== null,
		note: round.note,
		before: before.totals,
		after: after.totals,
		partial: before.partial,
		deals: mine.map(({ dealId, note }): MinutesDeal => {
			const deal = organisation.dealIndex.get(dealId) ?? -1;
			const stored = calls.get(dealId);
			const call = callView(context, stored);
			const owner = stored?.ownerId ?? organisation.people[survey.deals[deal]?.owner ?? -1]?.id ?? null;
			return {
				id: dealId,
				name: dealName(organisation, deal),
				account: accountName(organisation, deal),
				owner: ownerShort(organisation, organisation.personIndex.get(owner ?? "") ?? -1),
				ownerId: owner,
				category: stored?.call ? stored.category : categoryNow(context, dealId),
				amount: stored?.amountBase ?? survey.deals[deal]?.amountBase ?? 0,
				call,
				said: saidOf(call),
				note,
				changes: changed.get(dealId) ?? [],
			};
		}),
		uncalled: mine.filter(({ dealId }) => !calls.get(dealId)?.call).length,
		hidden: rows.length - mine.length,
		promises: (await promisesOf(context, { rounds: [id] }, now.day)).filter(({ dealId }) => dealId === null || ids.has(dealId)),
		kept: countFates(promisedBefore.map(({ fate }) => fate)),
		currency: organisation.company.rules.rates.base,
	};
});

/** What its rep says of a deal today. */
function categoryNow({ organisation, now }: Context, dealId: string): string | null {
	const { company, dealIndex } = organisation;
	const seen = surveyOn(company, now.day).deals[dealIndex.get(dealId) ?? -1];
	return seen ? categoryOf(company, seen) : null;
}

interface Changed {
	readonly field: string;
	readonly before: string;
	readonly after: string;
}

/** What was changed of some deals between two instants, by deal, in words; what was undone again is left out. */
async function changesIn({ organisation }: Context, from: Date, to: Date, dealIds: readonly string[]): Promise<Map<string, { words: string; by: string }[]>> {
	const found = new Map<string, { words: string; by: string }[]>();
	if (!dealIds.length) return found;
	const rows = await connection()
		.db.select()
		.from(audit)
		.where(
			and(
				isOneOf(audit.subject, [...dealIds]),
				inArray(audit.action, ["deal changed", "deal change undone", "question answered"]),
				gte(audit.really, from),
				lte(audit.really, to),
			),
		)
		.orderBy(asc(audit.id));
	const undone = new Set(rows.filter(({ action }) => action === "deal change undone").map(({ detail }) => Number(detail.was)));
	for (const { subject, action, detail, personId } of rows) {
		if (action === "deal change undone" || (action === "deal changed" && undone.has(Number(detail.version)))) continue;
		const words =
			action === "question answered"
				? `answered: ${String(detail.was)} → ${String(detail.level)}`
				: ((detail.changed ?? []) as Changed[]).map(({ field, before, after }) => `${field.toLowerCase()} ${before} → ${after}`).join("; ");
		if (!words || !subject) continue;
		found.set(subject, [...(found.get(subject) ?? []), { words: words, by: personName(organisation, personId) ?? "Somebody" }]);
	}
	return found;
}
