import { type Day, dayFrom, formatDay, parseDay, parts } from "./day";
import { type Fiscal, placeOfStart, spanAt } from "./fiscal";

/** An inclusive range of days. */
export interface Period {
	readonly start: Day;
	readonly end: Day;
}

/**
 * Whole numbers that grow by one from fiscal quarter to fiscal quarter; used to compare, never shown.
 *
 * @example quarterIndex(20781, 1) - quarterIndex(20781 - 92, 1) // 1
 */
export function quarterIndex(day: Day, fiscal: Fiscal): number {
	if (typeof fiscal !== "number") return placeOfStart(fiscal.quarters, day);
	const { year, month } = parts(day);
	return Math.floor((year * 12 + month - fiscal) / 3);
}

/**
 * The fiscal quarter a day lies in.
 *
 * @example quarterOf(0, 1) // { "start": 0, "end": 89 }
 */
export function quarterOf(day: Day, fiscal: Fiscal): Period {
	return quarterAt(quarterIndex(day, fiscal), fiscal);
}

/**
 * The fiscal quarter with an index of `quarterIndex`.
 *
 * @example formatRange(quarterAt(quarterIndex(20781, 1), 1)) // "2026-10-01..2026-12-31"
 */
export function quarterAt(index: number, fiscal: Fiscal): Period {
	if (typeof fiscal !== "number") return spanAt(fiscal.quarters, index);
	const months = index * 3 + fiscal;
	const start = monthStart(months);
	return { start, end: monthStart(months + 3) - 1 };
}

function monthStart(months: number): Day {
	const year = Math.floor((months - 1) / 12);
	return dayFrom(year, months - year * 12, 1);
}

/**
 * The fiscal month a day lies in: a calendar month, but where fiscal years run by weeks.
 *
 * @example formatRange(monthOf(20781)) // "2026-11-01..2026-11-30"
 */
export function monthOf(day: Day, fiscal: Fiscal = 1): Period {
	if (typeof fiscal !== "number") return spanAt(fiscal.months, placeOfStart(fiscal.months, day));
	const { year, month } = parts(day);
	return { start: dayFrom(year, month, 1), end: dayFrom(year, month + 1, 1) - 1 };
}

/**
 * Reads a period: a quarter `2026-Q4`, a month `2026-11`, or two days `2026-10-01..2026-12-31`, of which one may
 * be left out. A quarter's year is the one in which the fiscal year ends, so that with a January start it is the calendar
 * year; by weeks it is that of the fiscal year's last month. Null when it is none of these or ends before it starts.
 *
 * A quarter's number means other days once the fiscal year begins in another month: it is read where somebody types it,
 * and whatever is kept or sent is written by `formatRange`.
 */
export function parsePeriod(text: string, fiscal: Fiscal): Period | null {
	const quarter = /^(\d{4})-Q([1-4])$/.exec(text);
	if (quarter && typeof fiscal !== "number") {
		const place = fiscal.quarters.findLastIndex((one) => one.year === Number(quarter[1]) && one.place === Number(quarter[2]));
		return place < 0 ? null : spanAt(fiscal.quarters, place);
	}
	if (quarter && typeof fiscal === "number") {
		const startYear = Number(quarter[1]) - (fiscal === 1 ? 0 : 1);
		const months = startYear * 12 + fiscal + (Number(quarter[2]) - 1) * 3;
		return { start: monthStart(months), end: monthStart(months + 3) - 1 };
	}
	const month = /^(\d{4})-(\d{2})$/.exec(text);
	if (month) {
		const first = parseDay(`${text}-01`);
		return first === null ? null : monthOf(first);
	}
	const range = /^(\d{4}-\d{2}-\d{2})?\.\.(\d{4}-\d{2}-\d{2})?$/.exec(text);
	if (!range) return null;
	const start = range[1] ? parseDay(range[1]) : ALWAYS.start;
	const end = range[2] ? parseDay(range[2]) : ALWAYS.end;
	return start === null || end === null || end < start ? null : { start, end };
}

/**
 * Whether a text names a calendar month, which no fiscal calendar moves.
 *
 * @example [isMonthKey("2026-11"), isMonthKey("2026-11-24")] // [true, false]
 */
export const isMonthKey = (text: string): boolean => /^\d{4}-\d{2}$/.test(text);

/** Every day a close date can have. */
export const ALWAYS: Period = { start: dayFrom(1, 1, 1), end: dayFrom(9999, 12, 31) };

/**
 * The period if it has a first and a last day; null for none, or one that is open at an end.
 *
 * @example [bounded({ start: 1, end: 9 }), bounded(ALWAYS)] // [{ "start": 1, "end": 9 }, null]
 */
export const bounded = (period: Period | null): Period | null => (period && period.start !== ALWAYS.start && period.end !== ALWAYS.end ? period : null);

/**
 * `2026-10-01..2026-12-31`.
 *
 * @example formatRange(monthOf(20781)) // "2026-11-01..2026-11-30"
 */
export function formatRange(period: Period): string {
	const start = period.start === ALWAYS.start ? "" : formatDay(period.start);
	const end = period.end === ALWAYS.end ? "" : formatDay(period.end);
	return `${start}..${end}`;
}
