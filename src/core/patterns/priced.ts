import type { Company } from "../company";
import { asOf, blockOf } from "../history/columns";
import { amountsBase } from "../inspect";
import type { Day } from "../time/day";
import { type Closed, meanSaid } from "./closed";
import { daysBefore } from "./quarters";

/** What deals that were won were worth when they first came to each stage, and when they were won. */
export interface ValuePath {
	/** by index of the stage: how many of them were ever in it, and their mean amount at the end of the day they came */
	readonly stages: ReadonlyMap<number, { readonly n: number; readonly mean: number | null }>;
	readonly won: { readonly n: number; readonly mean: number | null };
}

/**
 * The mean amount of won deals along their path, in base minor units at the rates of a day: at the end of the day on which
 * each stage was first entered, and when won.
 */
export function valuePath(company: Company, won: readonly Closed[], day: Day): ValuePath {
	const amountOf = amountsBase(company, day);
	const stages = new Map<number, number[]>();
	const ends: number[] = [];
	for (const { seen, day: closed } of won) {
		const entered = new Set<number>();
		for (const visit of seen.path.visits) {
			if (entered.has(visit.stage)) continue;
			entered.add(visit.stage);
			const own = stages.get(visit.stage) ?? [];
			stages.set(visit.stage, own);
			own.push(amountOf(seen.deal, asOf(company.history, seen.deal, visit.from)));
		}
		ends.push(amountOf(seen.deal, asOf(company.history, seen.deal, closed)));
	}
	return {
		stages: new Map([...stages].map(([stage, amounts]) => [stage, { n: amounts.length, mean: meanSaid(amounts) }])),
		won: { n: ends.length, mean: meanSaid(ends) },
	};
}

/** working days before the win of which is asked what was given away in them */
export const LATE = 10;

/** What a won deal was worth so many working days before it was won, while it was open, and when it was won; base minor units. */
export interface Late {
	readonly closed: Closed;
	readonly before: number;
	readonly after: number;
}

/** What happened to the amounts of won deals in their last two weeks, for those that were open and priced before them. */
export function lateChanges(company: Company, won: readonly Closed[], day: Day): Late[] {
	const { history, rules } = company;
	const amountOf = amountsBase(company, day);
	return won.flatMap((closed) => {
		const { deal } = closed.seen;
		const start = daysBefore(rules.calendar, closed.day, LATE);
		const row = asOf(history, deal, start);
		const block = blockOf(history, deal);
		if (row < 0 || rules.stages[block.stage[row] as number]?.kind !== "open" || Number.isNaN(block.amount[row])) return [];
		const before = amountOf(deal, row);
		return before > 0 ? [{ closed, before, after: amountOf(deal, asOf(history, deal, closed.day)) }] : [];
	});
}

/** A line of a won deal, in minor units of its own currency. */
export interface PricedLine {
	readonly deal: number;
	readonly quantity: number;
	readonly list: number;
	readonly unit: number;
}

/**
 * 1 − Σ quantity × unit price / Σ quantity × list price; null where nothing has a list price.
 *
 * @example discountOf([]) // null
 */
export function discountOf(lines: Iterable<PricedLine>): number | null {
	let [listed, paid] = [0, 0];
	for (const { quantity, list, unit } of lines) {
		listed += quantity * list;
		paid += quantity * unit;
	}
	return listed > 0 ? 1 - paid / listed : null;
}
