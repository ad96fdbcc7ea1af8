import { formatDay } from "@/core/time/day";
import type { Fiscal } from "@/core/time/fiscal";
import { formatRange, monthOf, type Period, quarterAt, quarterIndex } from "@/core/time/period";

/** A period's name in an address. */
export function keyOf(period: Period): string {
	const month = monthOf(period.start);
	return month.start === period.start && month.end === period.end ? formatDay(period.start).slice(0, 7) : formatRange(period);
}

const AFTER = 3;

/** The period, the three after it, and the months within it. */
export function periodsBeside(period: Period, fiscal: Fiscal): (Period & { within: boolean })[] {
	const quarter = quarterIndex(period.start, fiscal);
	const isQuarter = quarterAt(quarter, fiscal).start === period.start && quarterAt(quarter, fiscal).end === period.end;
	const isMonth = monthOf(period.start, fiscal).start === period.start && monthOf(period.start, fiscal).end === period.end;
	const next = (one: Period): Period =>
		isMonth
			? monthOf(one.end + 1, fiscal)
			: isQuarter
				? quarterAt(quarterIndex(one.end + 1, fiscal), fiscal)
				: { start: one.end + 1, end: one.end + 1 + (period.end - period.start) };
	const row = [{ ...period, within: false }];
	for (let i = 0; i < AFTER; i++) row.push({ ...next(row[i] as Period), within: false });
	if (!isQuarter) return row;
	const months = [];
	for (let start = period.start; start <= period.end; start = monthOf(start, fiscal).end + 1) months.push({ ...monthOf(start, fiscal), within: true });
	return [...row, ...months];
}
