import { formatDay } from "@/core/time/day";
import { formatRange, monthOf, type Period, quarterAt, quarterIndex } from "@/core/time/period";

/** A period's name in an address. */
export function keyOf(period: Period): string {
	const month = monthOf(period.start);
	return month.start === period.start && month.end === period.end ? formatDay(period.start).slice(0, 7) : formatRange(period);
}

const AFTER = 3;

/** The period, the three after it, and the months within it. */
export function periodsBeside(period: Period, fiscalStart: number): (Period & { within: boolean })[] {
	const quarter = quarterIndex(period.start, fiscalStart);
	const isQuarter = quarterAt(quarter, fiscalStart).start === period.start && quarterAt(quarter, fiscalStart).end === period.end;
	const isMonth = monthOf(period.start).start === period.start && monthOf(period.start).end === period.end;
	const next = (one: Period): Period =>
		isMonth
			? monthOf(one.end + 1)
			: isQuarter
				? quarterAt(quarterIndex(one.end + 1, fiscalStart), fiscalStart)
				: { start: one.end + 1, end: one.end + 1 + (period.end - period.start) };
	const row = [{ ...period, within: false }];
	for (let i = 0; i < AFTER; i++) row.push({ ...next(row[i] as Period), within: false });
	if (!isQuarter) return row;
	const months = [];
	for (let start = period.start; start <= period.end; start = monthOf(start).end + 1) months.push({ ...monthOf(start), within: true });
	return [...row, ...months];
}
