/** A calendar date in the organisation's zone, as whole days since 1970-01-01. */
export type Day = number;

/** Stands in day columns where there is no date. Smaller than every real day. */
export const NO_DAY: Day = -(2 ** 31);

const MS_PER_DAY = 86_400_000;

/** `YYYY-MM-DD` to a day; null for another shape or a day that doesn't exist (30 February). */
export function parseDay(text: string): Day | null {
	const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
	if (!match) return null;
	const [year, month, date] = [Number(match[1]), Number(match[2]), Number(match[3])];
	const day = dayFrom(year, month, date);
	const back = parts(day);
	return back.month === month && back.date === date ? day : null;
}

/** A day to `YYYY-MM-DD`. */
export function formatDay(day: Day): string {
	return new Date(day * MS_PER_DAY).toISOString().slice(0, 10);
}

/** `formatDay`, with null for NO_DAY. */
export function isoOrNull(day: Day): string | null {
	return day === NO_DAY ? null : formatDay(day);
}

/** A day from a proleptic Gregorian year, month 1–12 (others carry over) and date. */
export function dayFrom(year: number, month: number, date: number): Day {
	const at = new Date(0);
	at.setUTCFullYear(year, month - 1, date);
	return Math.floor(at.getTime() / MS_PER_DAY);
}

/** Year, month 1–12 and date of a day. */
export function parts(day: Day): { year: number; month: number; date: number } {
	const at = new Date(day * MS_PER_DAY);
	return { year: at.getUTCFullYear(), month: at.getUTCMonth() + 1, date: at.getUTCDate() };
}

/** Day of the week: 0 Sunday to 6 Saturday. */
export function weekday(day: Day): number {
	return (((day + 4) % 7) + 7) % 7;
}
