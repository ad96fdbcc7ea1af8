import type { Company } from "../company";
import { asOf, dayEnds, NONE } from "../history/columns";
import { pathOf } from "../history/path";
import { amountBaseOf } from "../inspect";
import { weightedPart } from "../money/rates";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { isIn, ownerIn, type Scope } from "./scope";

export interface TrendPoint {
	readonly day: Day;
	readonly count: number;
	/** base minor units, at the rates of the last day of the trend */
	readonly open: number;
	readonly weighted: number;
	/** open amount by index of stage, and of category (the last one: none) */
	readonly byStage: readonly number[];
	readonly byCategory: readonly number[];
	/** closed in the period so far */
	readonly won: number;
	readonly lost: number;
}

/** The pipeline of a period and scope on each of some days, all at the rates of the last. */
export function trend(company: Company, days: readonly Day[], period: Period, scope: Scope): TrendPoint[] {
	const ratesOn = days.at(-1) ?? 0;
	const { stages, calendar } = company.rules;
	return days.map((day) => {
		const point = { day, count: 0, open: 0, weighted: 0, won: 0, lost: 0 };
		const byStage = stages.map(() => 0);
		const byCategory = [0, 0, 0, 0, 0];
		for (let deal = 0; deal < company.deals.length; deal++) {
			const row = asOf(company.history, deal, day);
			const index = row < 0 ? NONE : (company.history.stage[row] as number);
			const stage = stages[index];
			if (!stage) continue;
			const amount = amountBaseOf(company, row, ratesOn);
			if (isIn(company, row, period, scope)) {
				const category = company.history.category[row] as number;
				const slot = category === NONE ? 4 : category;
				point.count++;
				point.open += amount;
				point.weighted += weightedPart(amount, stage.probability);
				byStage[index] = (byStage[index] ?? 0) + amount;
				byCategory[slot] = (byCategory[slot] ?? 0) + amount;
			} else if (stage.kind !== "open" && ownerIn(scope, company.history.owner[row] as number)) {
				const ends = dayEnds(company.history, deal, day);
				const { closedDay } = pathOf(company.history, ends, stages, calendar, day);
				if (closedDay >= period.start && closedDay <= period.end) point[stage.kind] += amount;
			}
		}
		return { ...point, byStage, byCategory };
	});
}
