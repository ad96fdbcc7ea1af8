import { ownerIn } from "@/core/bridge/scope";
import { byId } from "@/core/deal/order";
import { asOf, blockOf } from "@/core/history/columns";
import { wonBetween } from "@/core/history/won";
import { amountsBase } from "@/core/inspect";
import { type MoveKey, movesOf } from "@/core/outlook/moved";
import { groundSteps, whyNone } from "@/core/outlook/outlook";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { accountName, dealName } from "@/platform/names";
import { runCooperatively } from "@/platform/runCooperatively";
import { counting, dayOf, finding, periodOf, scopeOf } from "../given";

/** How the mean of an outlook moved between two days, and by which deals. Base minor units, whole. */
export type MovedView =
	| { readonly available: false; readonly reason: string }
	| {
			readonly available: true;
			readonly against: string;
			readonly before: number;
			readonly after: number;
			readonly steps: readonly {
				readonly key: MoveKey;
				readonly amount: number;
				readonly count: number;
				/** the largest of them */
				readonly deals: readonly { readonly id: string; readonly name: string; readonly account: string; readonly amount: number }[];
			}[];
	  };

const SHOWN = 12;

/** The bridge of the mean: from where the period was to end, as one knew on the earlier day, to where it is to end now. */
export const moved = finding({
	steps: () => 16,
	async compute(context, given, told): Promise<MovedView> {
		const { organisation } = context;
		const { company } = organisation;
		const [period, day, against, scope] = [periodOf(given), dayOf(given.day), dayOf(given.against), scopeOf(context, given)];
		const step = counting(told);
		const before = await runCooperatively(groundSteps(company, surveyOn(company, against), period, scope, against), step);
		const after = await runCooperatively(groundSteps(company, surveyOn(company, day), period, scope, day), step);
		if (!before || !after) {
			const reason = whyNone(company, period, against) ?? whyNone(company, period, day);
			return { available: false, reason: reason ?? "There is no outlook of one of the two days." };
		}
		const amountOf = amountsBase(company, day);
		const won = new Map<number, number>();
		const order = byId(company);
		for (const { deal, closed } of [...wonBetween(company, against, day)].sort((a, b) => order(a.deal, b.deal))) {
			const row = asOf(company.history, deal, day);
			if (closed >= period.start && closed <= period.end && ownerIn(scope, blockOf(company.history, deal).owner[row] as number))
				won.set(deal, amountOf(deal, row));
		}
		return {
			available: true,
			against: formatDay(against),
			before: Math.round(before.mean),
			after: Math.round(after.mean),
			steps: movesOf(before, after, won).map(({ key, amount, deals }) => ({
				key,
				amount: Math.round(amount),
				count: deals.length,
				deals: deals.slice(0, SHOWN).map((one) => ({
					id: organisation.deals[one.deal]?.id ?? "",
					name: dealName(organisation, one.deal),
					account: accountName(organisation, one.deal),
					amount: Math.round(one.amount),
				})),
			})),
		};
	},
});
