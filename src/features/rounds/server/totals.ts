import { ownerIn, type Scope } from "@/core/bridge/scope";
import { blockOf, CATEGORIES, NONE } from "@/core/history/columns";
import { amountsBase, rowOf } from "@/core/inspect";
import { type Counting, differences, totalsOf } from "@/core/rounds/totals";
import { surveyOn } from "@/core/survey";
import type { KeptTotals, RoundTotals } from "@/data/schema";
import { wonAndTarget } from "@/features/period";
import type { Context } from "@/platform/context";
import { ownerShort } from "@/platform/names";
import { reachOf } from "@/platform/reach";
import { calledOf, periodOf, type StoredCall, type StoredRound, scopeOfRound } from "./stored";

export interface TotalsView extends RoundTotals {
	readonly called: number;
	/** whose word lies farthest from the calls; null where nobody's does */
	readonly differs: { readonly name: string; readonly byWord: number; readonly byCalls: number } | null;
}

type Calls = ReadonlyMap<string, StoredCall>;
const NOBODY: Scope = new Set();
const KEYS = ["won", "byWord", "byCalls", "shaky"] as const;

/** What the period of a round comes to today by the reps' word and by its calls, of its people within the person's reach. */
export function totalsToday(context: Context, round: StoredRound, calls: Calls): TotalsView {
	const scope = scopeOfRound(context, round)?.scope;
	const period = periodOf(context, round);
	const deals = countingOf(context, scope === undefined ? NOBODY : scope, calls);
	const [farthest] = differences(period, deals);
	return {
		...totalsIn(context, round, scope === undefined ? NOBODY : scope, deals),
		called: totalsOf(period, 0, deals).called,
		differs: farthest ? { name: ownerShort(context.organisation, farthest.owner), byWord: farthest.byWord, byCalls: farthest.byCalls } : null,
	};
}

function totalsIn(context: Context, round: StoredRound, scope: Scope, deals: readonly Counting[]): RoundTotals {
	const period = periodOf(context, round);
	const { won, target } = wonAndTarget(context, scope, period, context.now.day);
	const { byWord, byCalls, shaky } = totalsOf(period, won, deals);
	return { target, won, byWord, byCalls, shaky };
}

/** Whose deals a round is over for whoever started it: what is kept of it is of these people, whoever ends it. */
function wholeScope(context: Context, round: StoredRound): Scope {
	const { organisation } = context;
	const index = organisation.personIndex.get(round.startedById);
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || !person) return NOBODY;
	return scopeOfRound({ ...context, actor: { person, index } }, round)?.scope ?? null;
}

/** What a round comes to now, of all its people, to be kept with it: the whole, and each person's part. The parts add up to it. */
export function totalsToKeep(context: Context, round: StoredRound, calls: Calls): KeptTotals {
	const scope = wholeScope(context, round);
	const deals = countingOf(context, scope, calls);
	const { people } = context.organisation;
	const parts: Record<string, RoundTotals> = {};
	const owners = [...people.keys(), ...(scope === null ? [NONE] : [])].filter((owner) => ownerIn(scope, owner));
	for (const owner of owners) {
		const own = deals.filter((deal) => deal.owner === owner);
		const part = owner === NONE ? unownedIn(context, round, own) : totalsIn(context, round, new Set([owner]), own);
		if (part.target !== null || KEYS.some((key) => part[key] !== 0)) parts[people[owner]?.id ?? ""] = part;
	}
	return { ...totalsIn(context, round, scope, deals), people: parts };
}

/** What is won of deals that nobody owns is what everybody's have won less what people's have. */
function unownedIn(context: Context, round: StoredRound, deals: readonly Counting[]): RoundTotals {
	const period = periodOf(context, round);
	const everyone = new Set(context.organisation.people.keys());
	const won = wonAndTarget(context, null, period, context.now.day).won - wonAndTarget(context, everyone, period, context.now.day).won;
	const { byWord, byCalls, shaky } = totalsOf(period, won, deals);
	return { target: null, won, byWord, byCalls, shaky };
}

/** What was kept, as far as somebody may see it. */
export interface TotalsSeen {
	/** null where it was kept without its people's parts, and isn't all theirs to see */
	readonly totals: RoundTotals | null;
	/** these are some people's alone, of those that the round was over */
	readonly partial: boolean;
}

/**
 * What was kept with a round, for whoever looks: the whole for whoever started it or sees all its people's figures on
 * *Period*, and the sum of the parts of those they do see for everybody else.
 */
export function totalsSeen(context: Context, round: StoredRound, kept: KeptTotals): TotalsSeen {
	const { target, won, byWord, byCalls, shaky, people } = kept;
	const reach = reachOf(context.organisation, context.actor);
	if (round.startedById === context.actor.person.id || isWithin(wholeScope(context, round), reach))
		return { totals: { target, won, byWord, byCalls, shaky }, partial: false };
	if (!people) return { totals: null, partial: true };
	const seen = Object.entries(people).flatMap(([id, part]) => (ownerIn(reach, context.organisation.personIndex.get(id) ?? NONE) ? [part] : []));
	return { totals: seen.reduce(added, NOTHING), partial: true };
}

const NOTHING: RoundTotals = { target: null, won: 0, byWord: 0, byCalls: 0, shaky: 0 };
const added = (a: RoundTotals, b: RoundTotals): RoundTotals => ({
	target: a.target === null && b.target === null ? null : (a.target ?? 0) + (b.target ?? 0),
	won: a.won + b.won,
	byWord: a.byWord + b.byWord,
	byCalls: a.byCalls + b.byCalls,
	shaky: a.shaky + b.shaky,
});
const isWithin = (scope: Scope, reach: Scope): boolean => reach === null || (scope !== null && [...scope].every((one) => reach.has(one)));

/** All open deals of a scope as a round counts them: those that aren't in it count by the rep's word. */
function countingOf({ organisation, now }: Context, scope: Scope, calls: Calls): Counting[] {
	const { company, deals } = organisation;
	const amountOf = amountsBase(company, now.day);
	return surveyOn(company, now.day).deals.flatMap((seen) => {
		if (seen?.status !== "open" || !ownerIn(scope, seen.owner)) return [];
		const row = rowOf(company.history, seen);
		return [
			{
				owner: seen.owner,
				amount: amountOf(seen.deal, row),
				close: seen.close,
				category: CATEGORIES[blockOf(company.history, seen.deal).category[row] as number] ?? "pipeline",
				called: calledOf(calls.get(deals[seen.deal]?.id ?? "")),
			},
		];
	});
}
