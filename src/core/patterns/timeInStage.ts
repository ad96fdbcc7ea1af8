import type { Company } from "../company";
import { byId } from "../deal/order";
import { asOf, blockOf, dayEnds } from "../history/columns";
import { pathOf } from "../history/path";
import { type Survival, survivalOf } from "../statistics/survival";
import { LEAST } from "../statistics/wilson";
import type { Day } from "../time/day";

/** How long deals of a group stay in a stage, in working days. Of fewer than five visits nothing is said. */
export interface StageTime {
	/** index of the stage */
	readonly stage: number;
	readonly group: string;
	readonly finished: number;
	readonly unfinished: number;
	/** of the finished visits */
	readonly mean: number | null;
	readonly median: number | null;
	/** where the median lies at 95% */
	readonly interval: Survival["interval"];
	/** each visit: its deal, whose it was on the last day of it, and whether it is finished */
	readonly visits: readonly { readonly deal: number; readonly owner: number; readonly length: number; readonly finished: boolean }[];
	readonly curve: Survival["curve"];
}

const WINDOW = 365;

/**
 * Time in stage by group over the visits begun in the 365 days up to a day: mean of the finished ones, Kaplan–Meier median
 * of all. A deal may belong to several groups (its product families), or to none.
 *
 * @param groupsOf the groups of a deal, by its index and its owner on the visit's last day
 */
export function timeInStage(company: Company, seen: Day, groupsOf: (deal: number, owner: number) => readonly string[]): StageTime[] {
	const { history, rules } = company;
	const found = new Map<string, { stage: number; group: string; visits: StageTime["visits"][number][] }>();
	for (let deal = 0; deal < company.deals.length; deal++) {
		const ends = dayEnds(history, deal, seen);
		if (!ends.length) continue;
		const block = blockOf(history, deal);
		for (const visit of pathOf(block, ends, rules.stages, rules.calendar, seen).visits) {
			if (visit.from <= seen - WINDOW || visit.from > seen) continue;
			const owner = block.owner[asOf(history, deal, visit.finished ? visit.to - 1 : seen)] as number;
			for (const group of groupsOf(deal, owner)) {
				const key = `${visit.stage} ${group}`;
				const own = found.get(key) ?? { stage: visit.stage, group, visits: [] };
				found.set(key, own);
				own.visits.push({ deal, owner, length: visit.length, finished: visit.finished });
			}
		}
	}
	const order = byId(company);
	for (const { visits } of found.values()) visits.sort((a, b) => order(a.deal, b.deal));
	return [...found.values()]
		.map(({ stage, group, visits }): StageTime => {
			const lengths = (ended: boolean) => visits.flatMap((visit) => (visit.finished === ended ? [visit.length] : []));
			const [finished, unfinished] = [lengths(true), lengths(false)];
			const said = finished.length + unfinished.length >= LEAST;
			const { median, curve, interval } = survivalOf(finished, unfinished);
			return {
				stage,
				group,
				finished: finished.length,
				unfinished: unfinished.length,
				mean: said && finished.length ? finished.reduce((sum, length) => sum + length, 0) / finished.length : null,
				median: said ? median : null,
				interval: said ? interval : { low: null, high: null },
				visits,
				curve: said ? curve : [],
			};
		})
		.sort((a, b) => a.stage - b.stage || (a.group < b.group ? -1 : 1));
}
