import { and, gte, inArray, lt } from "drizzle-orm";
import { byAttention } from "@/core/attention/attention";
import type { DealSeen } from "@/core/dealSeen";
import { categoryOf } from "@/core/inspect";
import type { Call } from "@/core/rounds/calls";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay, isoOrNull, NO_DAY } from "@/core/time/day";
import { formatRange, quarterOf } from "@/core/time/period";
import type { Tx } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { roundCalls, roundDeals, roundPlans, rounds, tasks } from "@/data/schema";
import { dueDeals } from "@/features/deals";
import { totalsToKeep } from "@/features/rounds";
import type { Context } from "@/platform/context";
import { newId } from "@/platform/ids";
import { resolveViewpoint } from "@/platform/viewpoint";

const TUESDAY = 2;
const WEEKS = [3, 2, 1];
const MOST = 10;
const AT_TEN = 10 * 3_600_000;
const NOTES = [
	"They want to see it run before they sign.",
	"Nobody has spoken to who signs.",
	"The fair decides it, they say.",
	"Price isn’t the question, the closed weeks are.",
	"",
];
const WHY_LATER = ["Their board meets later", "The hall isn’t ready", "They wait for the subsidy"];

/** The weekly rounds that Ruth has held with her team, each Tuesday of the last weeks; the next one is due on the coming Tuesday. */
export async function writeDemoRounds(tx: Tx, organisation: OrganisationState, today: Day): Promise<void> {
	const index = organisation.personIndex.get("ruth");
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || !person?.team) return;
	const planId = newId("plan");
	const whose = `team:${person.team}`;
	await tx.insert(roundPlans).values({ id: planId, name: `Tuesdays with ${person.team}`, whose, weekday: TUESDAY, byId: person.id });
	const { zone, fiscal } = organisation.company.rules;
	const last = today - ((((today + 2) % 7) + 7) % 7);
	for (const week of WEEKS) {
		const day = (last === today ? today : last + 7) - 7 * week;
		const instant = zone.instantAt(day, AT_TEN);
		const context: Context = { organisation, now: { day, instant, held: true }, actor: { person, index } };
		const due = formatRange(quarterOf(day, fiscal));
		const lit = litIn(context, whose, due);
		if (!lit.length) continue;
		const row = rowOf(context, planId, whose, due, lit[0]?.id ?? null);
		const calls = lit.map(({ seen, id }, i) => callOf(context, row.id, id, seen, today, i));
		const before = totalsToKeep(context, row, new Map());
		const after = totalsToKeep(context, row, new Map(calls.map((call, i) => [call.dealId, { ...call, id: i, uid: "" }])));
		await tx.insert(rounds).values({ ...row, before, after });
		await tx
			.insert(roundDeals)
			.values(lit.map(({ id }, place) => ({ roundId: row.id, dealId: id, place, note: NOTES[oddsOf(id, week) % NOTES.length] ?? "" })));
		await tx.insert(roundCalls).values(calls);
		// What was given on those days was agreed in it.
		await tx
			.update(tasks)
			.set({ roundId: row.id })
			.where(
				and(
					inArray(
						tasks.dealId,
						lit.map(({ id }) => id),
					),
					gte(tasks.createdAt, new Date(zone.instantAt(day, 0))),
					lt(tasks.createdAt, new Date(zone.instantAt(day + 4, 0))),
				),
			);
	}
}

/** The deals of a round: those that need attention most. */
const litIn = (context: Context, whose: string, due: string) =>
	dueDeals(context, resolveViewpoint(context, { whose, due }))
		.filter(({ attention }) => attention.level !== "calm")
		.map((seen) => ({ seen, id: context.organisation.deals[seen.deal]?.id ?? "", amountBase: seen.amountBase, score: seen.attention.score }))
		.sort(byAttention)
		.slice(0, MOST);

/** A round that was held from ten o’clock, for three quarters of an hour. */
function rowOf({ now, actor: { person } }: Context, planId: string, whose: string, due: string, atDeal: string | null) {
	const [start, end] = [new Date(now.instant), new Date(now.instant + 45 * 60_000)];
	return {
		id: newId("round"),
		kind: "round",
		name: `Tuesdays with ${person.team}`,
		whose,
		due,
		sorted: "attention",
		startedById: person.id,
		startedAt: start,
		endedAt: end,
		endedById: person.id,
		atDeal,
		note: "",
		planId,
		beganReally: start,
		endedReally: end,
		after: null,
		before: { target: null, won: 0, byWord: 0, byCalls: 0, shaky: 0 },
	};
}

/** A number of a deal in a week that is the same whenever the demo is made. */
function oddsOf(id: string, week: number): number {
	let sum = week * 31;
	for (let i = 0; i < id.length; i++) sum = (sum * 33 + id.charCodeAt(i)) % 10_007;
	return sum;
}

type NewCall = Omit<typeof roundCalls.$inferSelect, "id" | "uid">;

/** What Ruth called a deal then: with an eye for what came of it, and not always right. */
function callOf({ organisation, now, actor }: Context, roundId: string, dealId: string, then: DealSeen, today: Day, i: number): NewCall {
	const { company } = organisation;
	const later = surveyOn(company, today).deals[then.deal];
	const odds = oddsOf(dealId, now.day) % 10;
	const category = categoryOf(company, then);
	const pushed = later !== null && later !== undefined && later.close !== NO_DAY && then.close !== NO_DAY && later.close > then.close;
	const call: Call =
		later?.status === "lost" && odds < 7
			? "gone"
			: pushed && odds < 6
				? "moves"
				: (category === "commit" && odds < 7) || (later?.status === "won" && odds < 8) || odds < 2
					? "holds"
					: "shaky";
	return {
		roundId,
		dealId,
		at: new Date(now.instant + (i + 1) * 240_000),
		byId: actor.person.id,
		call,
		toDay: call === "moves" && later ? isoOrNull(later.close) : null,
		why:
			call === "moves"
				? (WHY_LATER[odds % WHY_LATER.length] ?? null)
				: call === "gone"
					? (organisation.outcomeReasons[odds % Math.max(1, organisation.outcomeReasons.length)] ?? "No budget")
					: null,
		competitor: null,
		left: "none",
		category,
		amountBase: then.amountBase,
		closeDay: then.close === NO_DAY ? null : formatDay(then.close),
		ownerId: organisation.people[then.owner]?.id ?? null,
	};
}
