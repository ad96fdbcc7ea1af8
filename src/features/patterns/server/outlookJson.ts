import type { OutlookView } from "./readOutlook";

/** An outlook as the API tells it: base minor units, chances from 0 to 1. */
export function outlookJson(view: { readonly available: true; readonly reason: null } & OutlookView) {
	const { available, reason, periods, won, target, mean, low, middle, high, chanceOfTarget, amountRatio, due, elsewhere, fresh, spread, stretch, common } =
		view;
	return {
		available,
		reason,
		periods,
		won,
		target,
		mean,
		low,
		middle,
		high,
		chanceOfTarget,
		amountRatio,
		due,
		outside: elsewhere,
		new: fresh,
		rest: elsewhere + fresh,
		tau: spread,
		widened: stretch,
		common,
		deals: view.deals.map((deal) => ({ id: deal.id, due: deal.due, amount: deal.amount, chance: deal.chance, steps: deal.steps, swing: deal.swing })),
		record: view.record,
	};
}
