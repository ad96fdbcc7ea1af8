import type { Scope } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import { type Outlook, outlookSteps, whyNone } from "@/core/outlook/outlook";
import { type Day, formatDay } from "@/core/time/day";
import type { Period } from "@/core/time/period";
import { wonAndTarget } from "@/features/period";
import { cached } from "@/platform/cached";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerShort } from "@/platform/names";
import { surveyOn } from "@/platform/survey";

export interface OutlookView extends Omit<Outlook, "deals" | "periods" | "record"> {
	readonly target: number | null;
	readonly currency: string;
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

/** Where a period will end for some people, from what came of comparable deals; or why that can't be said. Kept with the company. */
export const readOutlook = query(
	"patterns.outlook",
	"readPatterns",
	async (context: Context, scope: Scope, period: Period, day: Day): Promise<OutlookAnswer> => {
		const { organisation } = context;
		const { company } = organisation;
		const reason = whyNone(company, period, day);
		if (reason !== null) return { available: false, reason };
		const whose = scope === null ? "" : [...scope].sort((a, b) => a - b).join(",");
		return cached(company, "outlook", `${period.start} ${period.end} ${day} ${whose}`, async (): Promise<OutlookAnswer> => {
			const { target } = wonAndTarget(context, scope, period, day);
			const ids =
				scope === null
					? "all"
					: [...scope]
							.map((index) => organisation.people[index]?.id ?? "")
							.sort()
							.join(",");
			const seed = `${formatDay(period.start)} ${formatDay(period.end)} ${formatDay(day)} ${ids}`;
			const outlook = await withPauses(outlookSteps(company, surveyOn(company, day), period, scope, day, target, seed));
			if (!outlook) return { available: false, reason: "There is no outlook." };
			return { available: true, reason: null, ...viewOf(context, outlook, target, day) };
		});
	},
);

/** Runs something through in steps, and lets others have their turn between them. */
async function withPauses<R>(steps: Generator<undefined, R>): Promise<R> {
	for (;;) {
		const { done, value } = steps.next();
		if (done) return value;
		await new Promise((resolve) => setImmediate(resolve));
	}
}

const whole = (amount: number) => Math.round(amount);

function viewOf({ organisation }: Context, outlook: Outlook, target: number | null, day: Day): OutlookView {
	const survey = surveyOn(organisation.company, day);
	const span = (period: Period) => ({ from: formatDay(period.start), to: formatDay(period.end) });
	return {
		...outlook,
		target,
		currency: organisation.company.rules.rates.base,
		mean: whole(outlook.mean),
		low: whole(outlook.low),
		middle: whole(outlook.middle),
		high: whole(outlook.high),
		rest: whole(outlook.rest),
		periods: outlook.periods.map(({ period, day, comparables, won }) => ({ ...span(period), day: formatDay(day), comparables, won })),
		deals: outlook.deals.map(({ deal, ...rest }) => ({
			id: organisation.deals[deal]?.id ?? "",
			name: dealName(organisation, deal),
			account: accountName(organisation, deal),
			owner: ownerShort(organisation, survey.deals[deal]?.owner ?? NONE),
			...rest,
		})),
		record: {
			...outlook.record,
			periods: outlook.record.periods.map(({ period, low, high, total, inside }) => ({ ...span(period), low: whole(low), high: whole(high), total, inside })),
		},
	};
}
