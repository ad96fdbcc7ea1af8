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
				found.push({ deal, owner: block.owner[row] as number, day: on, monthEnd: rules.calendar.between(on, monthOf(on, rules.fiscal).end) < LAST_DAYS });
			}
			before = close;
		}
	}
	const order = byId(company);
	return found.sort((a, b) => order(a.deal, b.deal) || a.day - b.day);
}

/** So long a deal was open and its owner’s, in calendar days: what pushes are held against. */
export interface OpenDays {
	readonly deal: number;
	readonly owner: number;
	readonly days: number;
}

/** How long each deal was open within the so many days up to a day, by its owners then. */
export function openDaysOf(company: Company, day: Day, days: number): OpenDays[] {
	const { history, rules } = company;
	return company.deals.flatMap((_, deal) => {
		const block = blockOf(history, deal);
		const ends = dayEnds(history, deal, day);
		const own = new Map<number, number>();
		ends.forEach((row, i) => {
			if (rules.stages[block.stage[row] as number]?.kind !== "open") return;
			const from = Math.max(block.day[row] as number, day - days + 1);
			const next = ends[i + 1];
			const to = next === undefined ? day : (block.day[next] as number) - 1;
			const owner = block.owner[row] as number;
			if (to >= from) own.set(owner, (own.get(owner) ?? 0) + to - from + 1);
		});
		return [...own].map(([owner, open]) => ({ deal, owner, days: open }));
	});
}

/** By owner, the calendar days on which their deals were open, in the so many days up to a day. */
export function openDaysWithin(company: Company, day: Day, days: number): ReadonlyMap<number, number> {
	const found = new Map<number, number>();
	for (const one of openDaysOf(company, day, days)) found.set(one.owner, (found.get(one.owner) ?? 0) + one.days);
	return found;
}

/**
 * Pushes for every hundred weeks that a deal was open; null of none.
 *
 * @example pushRate(3, 1400) // 1.5
 */
export const pushRate = (pushes: number, openDays: number): number | null => (openDays > 0 ? (700 * pushes) / openDays : null);
