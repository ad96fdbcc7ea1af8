import type { Company } from "../company";
import { byId } from "../deal/order";
import { blockOf, dayEnds } from "../history/columns";
import { type Day, NO_DAY } from "../time/day";
import { monthOf } from "../time/period";

/** A move of a close date to a later day. */
export interface Push {
	readonly deal: number;
	/** who owned the deal on the evening of that day */
	readonly owner: number;
	readonly day: Day;
	/** it was made on one of the last three working days of a month */
	readonly monthEnd: boolean;
}

const LAST_DAYS = 3;

/** Every push of an open deal in the so many calendar days up to a day, by day-ends as the trail counts them. */
export function pushesWithin(company: Company, day: Day, days: number): Push[] {
	const { history, rules } = company;
	const found: Push[] = [];
	for (let deal = 0; deal < company.deals.length; deal++) {
		let before = NO_DAY;
		const block = blockOf(history, deal);
		for (const row of dayEnds(history, deal, day)) {
			const close = block.close[row] as number;
			const on = block.day[row] as number;
			if (close === NO_DAY) continue;
			const open = rules.stages[block.stage[row] as number]?.kind === "open";
			if (open && before !== NO_DAY && close > before && on > day - days) {
				found.push({ deal, owner: block.owner[row] as number, day: on, monthEnd: rules.calendar.between(on, monthOf(on).end) < LAST_DAYS });
			}
			before = close;
		}
	}
	const order = byId(company);
	return found.sort((a, b) => order(a.deal, b.deal) || a.day - b.day);
}
