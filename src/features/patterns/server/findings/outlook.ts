import { derive } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { type Outlook, outlookSteps, whyNone } from "@/core/outlook/outlook";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { wonAndTarget } from "@/features/period";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort } from "@/platform/names";
import { runCooperatively } from "@/platform/runCooperatively";
import { counting, dayOf, finding, type Given, periodOf, scopeOf } from "../given";

export interface OutlookView extends Omit<Outlook, "deals" | "periods" | "record"> {
	readonly target: number | null;
	readonly currency: string;
	/** how many deals are open in it, and how many of them decide: of a large company only the first are told here */
	readonly open: number;
	readonly deciding: number;
	readonly periods: readonly { readonly from: string; readonly to: string; readonly day: string; readonly comparables: number; readonly won: number }[];
	readonly deals: readonly {
		readonly id: string;
		readonly name: string;
		readonly account: string;
		readonly owner: string;
		readonly amount: number;
		readonly chance: number;
		readonly steps: readonly { readonly n: number; readonly won: number }[];
		readonly depth: number;
		readonly swing: number;
		readonly decides: boolean;
	}[];
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
/** so many deals are told to a screen, those with the most swing */
const TOLD = 100;

/** Where a period will end for some people, from what came of comparable deals; or why that can't be said. */
export const outlook = finding({
	// Each past period is read and foretold anew, and each drawing pauses.
	steps: () => PERIODS + DRAWN * (PERIODS + 1),
	async compute(context, given, told): Promise<OutlookAnswer> {
		const { whole, ...asked } = given;
		const answer = await derive(context.organisation.company, "outlook", JSON.stringify(asked), () => foretold(context, asked, told));
		return whole || !answer.available ? answer : { ...answer, deals: answer.deals.slice(0, TOLD) };
	},
});

async function foretold(context: Context, given: Given, told?: (done: number) => void): Promise<OutlookAnswer> {
	const { company } = context.organisation;
	const [period, day, scope] = [periodOf(given), dayOf(given.day), scopeOf(context, given)];
	const reason = whyNone(company, period, day);
	if (reason !== null) return { available: false, reason };
	const { target } = wonAndTarget(context, scope, period, day);
	const seed = [given.from, given.to, given.day, given.scope === null ? "all" : given.scope.join(",")].join(" ");
	const found = await runCooperatively(outlookSteps(company, surveyOn(company, day), period, scope, day, target, seed), counting(told));
	if (!found) return { available: false, reason: "There is no outlook." };
	return { available: true, reason: null, ...viewOf(context, found, target, day) };
}

const whole = (amount: number) => Math.round(amount);
const span = (period: Period) => ({ from: formatDay(period.start), to: formatDay(period.end) });

function viewOf({ organisation }: Context, found: Outlook, target: number | null, day: Day): OutlookView {
	const survey = surveyOn(organisation.company, day);
	return {
		...found,
		target,
		currency: organisation.company.rules.rates.base,
		open: found.deals.length,
		deciding: found.deals.filter(({ decides }) => decides).length,
		mean: whole(found.mean),
		low: whole(found.low),
		middle: whole(found.middle),
		high: whole(found.high),
		rest: whole(found.rest),
		periods: found.periods.map(({ period, day, comparables, won }) => ({ ...span(period), day: formatDay(day), comparables, won })),
		deals: found.deals.map(({ deal, ...rest }) => ({
			id: organisation.deals[deal]?.id ?? "",
			name: dealName(organisation, deal),
			account: accountName(organisation, deal),
			owner: ownerShort(organisation, survey.deals[deal]?.owner ?? NONE),
			...rest,
		})),
		record: {
			...found.record,
			periods: found.record.periods.map(({ period, low, high, total, inside }) => ({ ...span(period), low: whole(low), high: whole(high), total, inside })),
		},
	};
}
