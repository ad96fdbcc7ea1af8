/** A calendar date in the organisation's zone, as whole days since 1970-01-01. */
export type Day = number;

/** Stands in day columns where there is no date. Smaller than every real day. */
export const NO_DAY: Day = -(2 ** 31);

const MS_PER_DAY = 86_400_000;

/**
 * `YYYY-MM-DD` to a day; null for another shape or a day that doesn't exist (30 February).
 *
 * @example parseDay("1970-01-02") // 1
 * @example parseDay("2026-02-30") // null
 */
export function parseDay(text: string): Day | null {
	const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
	if (!match) return null;
	const [year, month, date] = [Number(match[1]), Number(match[2]), Number(match[3])];
	const day = dayFrom(year, month, date);
	const back = parts(day);
	return back.month === month && back.date === date ? day : null;
}

/** The first and the last year that anything may be dated to. */
const YEARS = { first: 1900, last: 2200 };
/** What is said of a day outside. */
export const DAYS_TAKEN = `days from ${YEARS.first} to ${YEARS.last} are allowed`;

/**
 * Whether an ISO day lies in the years that anything may be dated to: what is outside is a slip of the pen, and would make
 * every computation over days endless.
 *
 * @example inBounds("0001-01-01") // false
 */
export function inBounds(iso: string): boolean {
	const year = Number(iso.slice(0, 4));
	return year >= YEARS.first && year <= YEARS.last;
}

/**
 * A day to `YYYY-MM-DD`.
 *
 * @example formatDay(parseDay("2028-02-29")) // "2028-02-29"
 */
export function formatDay(day: Day): string {
	const { year, month, date } = parts(day);
	return `${String(year).padStart(4, "0")}-${month < 10 ? "0" : ""}${month}-${date < 10 ? "0" : ""}${date}`;
}

/**
 * `formatDay`, with null for NO_DAY.
 *
 * @example isoOrNull(dayFrom(2026, 11, 24)) // "2026-11-24"
 */
export function isoOrNull(day: Day): string | null {
	return day === NO_DAY ? null : formatDay(day);
}

/**
 * A day from a proleptic Gregorian year, month 1–12 (others carry over) and date.
 *
 * @example formatDay(dayFrom(2026, 2, 28) + 1) // "2026-03-01"
 */
export function dayFrom(year: number, month: number, date: number): Day {
	const at = new Date(0);
	at.setUTCFullYear(year, month - 1, date);
	return Math.floor(at.getTime() / MS_PER_DAY);
}

/**
 * Year, month 1–12 and date of a day of the proleptic Gregorian calendar, by whole numbers alone: years are
 * counted from 1 March, so that the leap day is the last, in eras of 400 years.
 *
 * @example parts(0) // { "year": 1970, "month": 1, "date": 1 }
 */
export function parts(day: Day): { year: number; month: number; date: number } {
	const sinceMarch = day + 719_468;
	const era = Math.floor(sinceMarch / 146_097);
	const ofEra = sinceMarch - era * 146_097;
	const yearOfEra = Math.floor((ofEra - Math.floor(ofEra / 1460) + Math.floor(ofEra / 36_524) - Math.floor(ofEra / 146_096)) / 365);
	const ofYear = ofEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
	const fromMarch = Math.floor((5 * ofYear + 2) / 153);
	const month = fromMarch < 10 ? fromMarch + 3 : fromMarch - 9;
	return { year: yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, date: ofYear - Math.floor((153 * fromMarch + 2) / 5) + 1 };
}

/**
 * Day of the week: 0 Sunday to 6 Saturday.
 *
 * @example weekday(dayFrom(2026, 11, 24)) // 2
 */
export function weekday(day: Day): number {
	return (((day + 4) % 7) + 7) % 7;
}
