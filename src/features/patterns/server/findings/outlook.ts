import { derive } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { PLACES, type Place } from "@/core/outlook/kind";
import { PLACE_WORDS } from "@/core/outlook/kindWords";
import { type Outlook, outlookSteps, whyNone } from "@/core/outlook/outlook";
import { ofTwenty } from "@/core/outlook/shock";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { wonAndTarget } from "@/features/period";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort } from "@/platform/names";
import { runCooperatively } from "@/platform/runCooperatively";
import { counting, dayOf, finding, type Given, periodOf, scopeOf } from "../given";

/** A deal with its chance, as it is told. */
export interface OutlookDealView {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	/** its close date lies in the period; else where it is dated */
	readonly due: boolean;
	readonly dated: string;
	readonly amount: number;
	readonly chance: number;
	readonly steps: readonly { readonly n: number; readonly won: number }[];
	readonly depth: number;
	readonly swing: number;
	readonly decides: boolean;
}

/** Open deals that are dated at one place elsewhere, and what came of past ones like them. */
export interface PlaceView {
	readonly place: Place;
	readonly open: number;
	/** past deals dated so, and how many of them were won in time */
	readonly n: number;
	readonly won: number;
}

export interface OutlookView extends Omit<Outlook, "deals" | "periods" | "record" | "places"> {
	readonly target: number | null;
	readonly currency: string;
	/** how many deals are due, and how many are dated elsewhere */
	readonly dueCount: number;
	readonly elsewhereCount: number;
	/** how many deals decide: of a large company only the first are told here */
	readonly deciding: number;
	/** what a deal of even chance is in the worst of twenty such periods, and in the best */
	readonly ofTwenty: { readonly worst: number; readonly best: number };
	readonly periods: readonly { readonly from: string; readonly to: string; readonly day: string; readonly comparables: number; readonly won: number }[];
	readonly deals: readonly OutlookDealView[];
	readonly places: readonly PlaceView[];
	readonly record: Omit<Outlook["record"], "periods"> & {
		readonly periods: readonly {
			readonly from: string;
			readonly to: string;
			readonly low: number;
			readonly high: number;
			readonly total: number;
			readonly inside: boolean;
		}[];
	};
}
export type OutlookAnswer = ({ readonly available: true; readonly reason: null } & OutlookView) | { readonly available: false; readonly reason: string };

const PERIODS = 8;
const DRAWN = 10;
/** so many deals are told to a screen: of those due the ones with the most swing, of those dated elsewhere the ones with a chance worth a name */
const TOLD = 100;
const WORTH_A_NAME = 0.05;

/** The deals that a screen names, in their order. */
function told({ deals }: OutlookView): OutlookView["deals"] {
	const due = deals.filter((deal) => deal.due).slice(0, TOLD);
	const named = new Set([...due, ...deals.filter((deal) => !deal.due && (deal.decides || deal.chance >= WORTH_A_NAME)).slice(0, TOLD)]);
	return deals.filter((deal) => named.has(deal));
}

/** Where a period will end for some people, from what came of comparable deals; or why that can't be said. */
export const outlook = finding({
	// Each past period is read and foretold anew, and each drawing pauses.
	steps: () => PERIODS + DRAWN * (PERIODS + 1),
	async compute(context, given, progress): Promise<OutlookAnswer> {
		const { whole, ...asked } = given;
		const answer = await derive(context.organisation.company, "outlook", JSON.stringify(asked), () => foretold(context, asked, progress));
		return whole || !answer.available ? answer : { ...answer, deals: told(answer) };
	},
});

async function foretold(context: Context, given: Given, told?: (done: number) => void): Promise<OutlookAnswer> {
	const { company } = context.organisation;
	const [period, day, scope] = [periodOf(given), dayOf(given.day), scopeOf(context, given)];
	const { target } = wonAndTarget(context, scope, period, day);
	const seed = [given.from, given.to, given.day, given.scope === null ? "all" : given.scope.join(",")].join(" ");
	const found = await runCooperatively(outlookSteps(company, surveyOn(company, day), period, scope, day, target, seed), counting(told));
	// Asked after the steps, which pause: it looks at all past periods too, and they are known now.
	if (!found) return { available: false, reason: whyNone(company, period, day) ?? "There is no outlook." };
	return { available: true, reason: null, ...viewOf(context, found, target, day) };
}

const whole = (amount: number) => Math.round(amount);
const span = (period: Period) => ({ from: formatDay(period.start), to: formatDay(period.end) });

function viewOf({ organisation }: Context, found: Outlook, target: number | null, day: Day): OutlookView {
	const survey = surveyOn(organisation.company, day);
	const { places, ...rest } = found;
	const elsewhere = found.deals.filter(({ due }) => !due);
	return {
		...rest,
		target,
		currency: organisation.company.rules.rates.base,
		dueCount: found.deals.length - elsewhere.length,
		elsewhereCount: elsewhere.length,
		deciding: found.deals.filter(({ decides }) => decides).length,
		ofTwenty: ofTwenty(found.spread),
		mean: whole(found.mean),
		due: whole(found.due),
		elsewhere: whole(found.elsewhere),
		fresh: whole(found.fresh),
		low: whole(found.low),
		middle: whole(found.middle),
		high: whole(found.high),
		periods: found.periods.map(({ period, day, comparables, won }) => ({ ...span(period), day: formatDay(day), comparables, won })),
		deals: found.deals.map(({ deal, kind, ...chance }) => ({
			id: organisation.deals[deal]?.id ?? "",
			name: dealName(organisation, deal),
			account: accountName(organisation, deal),
			owner: ownerShort(organisation, survey.deals[deal]?.owner ?? NONE),
			dated: chance.due ? "in the period" : PLACE_WORDS[kind.values[0] as Place],
			...chance,
		})),
		places: PLACES.map((place) => ({ place, open: elsewhere.filter(({ kind }) => kind.values[0] === place).length, ...places[place] })).filter(
			({ open, n }) => open || n,
		),
		record: {
			...found.record,
			periods: found.record.periods.map(({ period, low, high, total, inside }) => ({ ...span(period), low: whole(low), high: whole(high), total, inside })),
		},
	};
}
