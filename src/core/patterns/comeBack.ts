import type { Calendar } from "../time/calendar";
import { type Day, dayFrom, parts } from "../time/day";
import { type Fiscal, yearOf } from "../time/fiscal";

/** When a reason for a loss ends: with the next fiscal year, or so many months after the loss. */
export type Returns = "year" | number;
/** By reason; one that isn't named doesn't end. */
export type ReasonReturns = Readonly<Record<string, Returns>>;

/**
 * The day to come back to a deal that was lost for a reason that ends: a working day, and never before `from`.
 *
 * @param lost the day it was lost
 */
export function comeBackOn(returns: Returns, lost: Day, from: Day, fiscal: Fiscal, calendar: Calendar): Day {
	const ends = returns === "year" ? yearOf(lost, fiscal).end + 1 : monthsAfter(lost, returns);
	return calendar.add(Math.max(ends, from) - 1, 1);
}

/** So many months later; the last of the month where it has no such day. */
function monthsAfter(day: Day, months: number): Day {
	const { year, month, date } = parts(day);
	const last = dayFrom(year, month + months + 1, 1) - 1;
	return Math.min(dayFrom(year, month + months, date), last);
}
