import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { asOf, blockOf } from "../history/columns";
import { wonBetween } from "../history/won";
import { rowOf } from "../inspect";
import { dueIn, endRowOf } from "../patterns/due";
import type { Looked } from "../patterns/quarters";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { kindOf, type Past } from "./past";

/** A past period that the outlook rests on. */
export interface PastPeriod extends Looked {
	readonly comparables: number;
	readonly won: number;
}

/** Whether what was foretold of past periods came: each with the comparables of the others alone. */
export interface OwnRecord {
	readonly brier: number | null;
	/** of the stages' own probabilities */
	readonly baseline: number | null;
	readonly periods: readonly { readonly period: Period; readonly low: number; readonly high: number; readonly total: number; readonly inside: boolean }[];
	/** in fifths of chance */
	readonly calibration: readonly {
		readonly from: number;
		readonly to: number;
		readonly n: number;
		readonly chance: number | null;
		readonly share: number | null;
	}[];
}

/**
 * The mean of some values; 0 of none.
 *
 * @example [meanOf([1, 2, 6]), meanOf([])] // [3, 0]
 */
export const meanOf = (values: readonly number[]) => (values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : 0);

/**
 * What deals that were won came to, in parts of what they were worth on the day looked at; 1 where nothing was won.
 *
 * @example ratioOf([{ whenSeen: 100, whenWon: 90 }, { whenSeen: 100, whenWon: 120 }]) // 1.05
 */
export function ratioOf(past: readonly Past[]): number {
	const before = past.reduce((sum, { whenSeen }) => sum + whenSeen, 0);
	return before ? past.reduce((sum, { whenWon }) => sum + whenWon, 0) / before : 1;
}

/** The amount of a version, named by its deal and row, in base minor units. */
export type AmountOf = (deal: number, row: number) => number;

/** What was won by some people in a period, as seen on a day: by the owner of the version that stood then. */
export function wonIn(company: Company, period: Period, scope: Scope, day: Day, amountOf: AmountOf): number {
	const { history } = company;
	let sum = 0;
	for (const { deal, closed } of wonBetween(company, period.start - 1, day)) {
		const row = asOf(history, deal, day);
		if (closed <= period.end && ownerIn(scope, blockOf(history, deal).owner[row] as number)) sum += amountOf(deal, row);
	}
	return sum;
}

/** A period that has passed, seen from a day as far before its end: its deals due, what was won of them after that day, and what came from elsewhere. */
export function pastPeriod(company: Company, looked: Looked, scope: Scope, amountOf: AmountOf): Past {
	const { history } = company;
	const due = dueIn(company, looked).map((one) => ({ ...one, kind: kindOf(company, one.seen) }));
	let [whenWon, whenSeen, inSight] = [0, 0, 0];
	for (const one of due) {
		const { seen, won } = one;
		if (!won) continue;
		const endRow = endRowOf(company, one);
		whenWon += amountOf(seen.deal, endRow);
		whenSeen += amountOf(seen.deal, rowOf(history, seen));
		if (ownerIn(scope, blockOf(history, seen.deal).owner[endRow] as number)) inSight += amountOf(seen.deal, endRow);
	}
	const wonBefore = wonIn(company, looked.period, scope, looked.day, amountOf);
	const wonAfter = wonIn(company, looked.period, scope, looked.period.end, amountOf);
	return { ...looked, due, whenWon, whenSeen, wonBefore, wonAfter, rest: Math.max(0, wonAfter - wonBefore - inSight) };
}
