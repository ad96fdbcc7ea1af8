import { ownerIn, type Scope } from "@/core/bridge/scope";
import { CATEGORIES } from "@/core/history/columns";
import { amountsBase, rowOf } from "@/core/inspect";
import { type Counting, differences, totalsOf } from "@/core/rounds/totals";
import type { RoundTotals } from "@/data/schema";
import { wonAndTarget } from "@/features/period";
import type { Context } from "@/platform/context";
import { ownerShort } from "@/platform/names";
import { surveyOn } from "@/platform/survey";
import { calledOf, periodOf, type StoredCall, type StoredRound, scopeOfRound } from "./stored";

export interface TotalsView extends RoundTotals {
	readonly called: number;
	/** whose word lies farthest from the calls; null where nobody's does */
	readonly differs: { readonly name: string; readonly byWord: number; readonly byCalls: number } | null;
}

/** What the period of a round comes to today by the reps' word and by its calls, of its people within the person's reach. */
export function totalsToday(context: Context, round: StoredRound, calls: ReadonlyMap<string, StoredCall>): TotalsView {
	const { organisation, now } = context;
	const period = periodOf(context, round);
	const found = scopeOfRound(context, round);
	const scope: Scope = found ? found.scope : new Set();
	const deals = countingOf(context, scope, calls);
	const { won, target } = wonAndTarget(context, scope, period, now.day);
	const [farthest] = differences(period, deals);
	return {
		target,
		won,
		...totalsOf(period, won, deals),
		differs: farthest ? { name: ownerShort(organisation, farthest.owner), byWord: farthest.byWord, byCalls: farthest.byCalls } : null,
	};
}

/** All open deals of a scope as a round counts them: those that aren't in it count by the rep's word. */
function countingOf({ organisation, now }: Context, scope: Scope, calls: ReadonlyMap<string, StoredCall>): Counting[] {
	const { company, deals } = organisation;
	const amountOf = amountsBase(company, now.day);
	return surveyOn(company, now.day).deals.flatMap((seen) => {
		if (seen?.status !== "open" || !ownerIn(scope, seen.owner)) return [];
		const row = rowOf(company.history, seen);
		return [
			{
				owner: seen.owner,
				amount: amountOf(row),
				close: seen.close,
				category: CATEGORIES[company.history.category[row] as number] ?? "pipeline",
				called: calledOf(calls.get(deals[seen.deal]?.id ?? "")),
			},
		];
	});
}

/** Of totals what is kept with a round. */
export const keptTotals = ({ target, won, byWord, byCalls, shaky }: TotalsView): RoundTotals => ({ target, won, byWord, byCalls, shaky });
