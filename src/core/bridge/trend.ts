import type { Company } from "../company";
import { asOf, blockOf, firstRow, NONE } from "../history/columns";
import { closedDayOf } from "../history/path";
import { amountsBase } from "../inspect";
import { weightedPart } from "../money/rates";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { wasLostOutside } from "./bridge";
import { membership, ownerIn, type Scope } from "./scope";

export interface TrendPoint {
	readonly day: Day;
	readonly count: number;
	/** base minor units, at the rates of the last day of the trend */
	readonly open: number;
	readonly weighted: number;
	/** open amount by index of stage, and of category (the last one: none) */
	readonly byStage: readonly number[];
	readonly byCategory: readonly number[];
	/** open amount by index of part, where parts are asked for */
	readonly byPart: readonly number[];
	/** closed in the period so far; as in the bridge, what was lost from outside the period is told apart */
	readonly won: number;
	readonly lost: number;
	readonly lostOutside: number;
}

/** The pipeline of a period and scope on each of some days, all at the rates of the last; `partOf` gives the index of a deal's part at a version. */
export function trend(company: Company, days: readonly Day[], period: Period, scope: Scope, partOf?: (deal: number, row: number) => number): TrendPoint[] {
	const amountOf = amountsBase(company, days.at(-1) ?? 0);
	const isHere = membership(company, period, scope);
	const { stages } = company.rules;
	return days.map((day) => {
		const point = { day, count: 0, open: 0, weighted: 0, won: 0, lost: 0, lostOutside: 0 };
		const byStage = stages.map(() => 0);
		const byCategory = [0, 0, 0, 0, 0];
		const byPart: number[] = [];
		for (let deal = 0; deal < company.deals.length; deal++) {
			const row = asOf(company.history, deal, day);
			const block = blockOf(company.history, deal);
			const index = row < 0 ? NONE : (block.stage[row] as number);
			const stage = stages[index];
			if (!stage) continue;
			const amount = amountOf(deal, row);
			if (stage.kind === "open" && isHere(block, row)) {
				const category = block.category[row] as number;
				const slot = category === NONE ? 4 : category;
				point.count++;
				point.open += amount;
				point.weighted += weightedPart(amount, stage.probability);
				byStage[index] = (byStage[index] ?? 0) + amount;
				byCategory[slot] = (byCategory[slot] ?? 0) + amount;
				if (partOf) {
					const part = partOf(deal, row);
					byPart[part] = (byPart[part] ?? 0) + amount;
				}
			} else if (stage.kind !== "open" && ownerIn(scope, block.owner[row] as number)) {
				const closedDay = closedDayOf(block, stages, firstRow(block, deal), row);
				if (closedDay < period.start || closedDay > period.end) continue;
				point[wasLostOutside(company, block, deal, row, period) ? "lostOutside" : stage.kind] += amount;
			}
		}
		return { ...point, byStage, byCategory, byPart: Array.from(byPart, (amount) => amount ?? 0) };
	});
}
