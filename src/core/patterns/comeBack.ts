import type { Calendar } from "../time/calendar";
import { type Day, dayFrom, parts } from "../time/day";
import { quarterAt, quarterIndex } from "../time/period";

/** When a reason for a loss ends: with the next fiscal year, or so many months after the loss. */
export type Returns = "year" | number;
/** By reason; one that isn't named doesn't end. */
export type ReasonReturns = Readonly<Record<string, Returns>>;

/**
 * The day to come back to a deal that was lost for a reason that ends: a working day, and never before `from`.
 *
 * @param lost the day it was lost
 * @param fiscalStart the first month of the fiscal year, 1 to 12
 */
export function comeBackOn(returns: Returns, lost: Day, from: Day, fiscalStart: number, calendar: Calendar): Day {
	const ends = returns === "year" ? nextYear(lost, fiscalStart) : monthsAfter(lost, returns);
	return calendar.add(Math.max(ends, from) - 1, 1);
}

/** The first day of the fiscal year after the one a day is in. */
function nextYear(day: Day, fiscalStart: number): Day {
	const quarter = quarterIndex(day, fiscalStart);
	for (let next = quarter + 1; ; next++) {
		const { start } = quarterAt(next, fiscalStart);
		if (parts(start).month === fiscalStart) return start;
	}
}

/** So many months later; the last of the month where it has no such day. */
function monthsAfter(day: Day, months: number): Day {
	const { year, month, date } = parts(day);
	const last = dayFrom(year, month + months + 1, 1) - 1;
	return Math.min(dayFrom(year, month + months, date), last);
}
