import { type Day, dayFrom, formatDay, inBounds, parseDay, parts, weekday } from "./day";

const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
const WEEKDAYS = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
const HALF_YEAR = 183;

/** The day of a month, or null where the month has none such. */
function dateIn(year: number, month: number, date: number): Day | null {
	const day = dayFrom(year, month, date);
	const back = parts(day);
	return back.month === month && back.date === date ? day : null;
}

/** Of the same date in three years the one nearest to a day; with a first day the first one from there on. */
function nearest(month: number, date: number, near: Day, from?: Day): Day | null {
	const { year } = parts(near);
	const days = [year - 1, year, year + 1].map((one) => dateIn(one, month, date)).filter((day) => day !== null);
	if (from !== undefined) return days.find((day) => day >= from) ?? days.at(-1) ?? null;
	return days.find((day) => Math.abs(day - near) <= HALF_YEAR) ?? days.sort((a, b) => Math.abs(a - near) - Math.abs(b - near))[0] ?? null;
}

const monthOf = (text: string | undefined): number => (text && text.length >= 3 ? MONTHS.indexOf(text.slice(0, 3)) + 1 : 0);
const fullYear = (text: string): number => (text.length === 2 ? 2000 + Number(text) : Number(text));

/**
 * Reads a day as people type it: `27 nov`, `nov 27 2026`, `27.11.`, `27/11/26` (day first), `2026-11-27`, `today`, `tomorrow`,
 * `fri` (the next one after today), `+3` (calendar days from today), `+2w`, `-1`. Without a year it is the one nearest to today.
 *
 * @param from the first day that may be meant: a date without a year is then the first one from there on
 * @returns the day as days since 1970 (24 Nov 2026 is 20781), or null for anything else, a day that doesn't exist, and one outside 1900 to 2200
 * @example typedDay("27 nov", 20781) // 20784
 * @example typedDay("fri", 20781) // 20784
 * @example typedDay("+2w", 20781) // 20795
 * @example typedDay("31 feb", 20781) // null
 */
export function typedDay(typed: string, today: Day, from?: Day): Day | null {
	const day = read(typed.trim().toLowerCase().replace(/\s+/g, " "), today, from);
	return day !== null && inBounds(formatDay(day)) ? day : null;
}

function read(text: string, today: Day, from?: Day): Day | null {
	if (text === "today") return today;
	if (text === "tomorrow") return today + 1;
	if (text === "yesterday") return today - 1;
	const by = /^([+-]) ?(\d{1,4}) ?(d|days?|w|weeks?)?$/.exec(text);
	if (by) return today + (by[1] === "-" ? -1 : 1) * Number(by[2]) * (by[3]?.startsWith("w") ? 7 : 1);
	if (/^[a-z]{3,9}$/.test(text)) {
		const on = WEEKDAYS.indexOf(text.slice(0, 3));
		return on < 0 ? null : today + (((on - weekday(today) + 6) % 7) + 1);
	}
	const iso = parseDay(text);
	if (iso !== null) return iso;
	const worded = /^(?:[a-z]{2,9},? )?(\d{1,2})(?:st|nd|rd|th)?[. ]? ?([a-z]{3,9})\.?,?(?: (\d{4}|\d{2}))?$/.exec(text);
	const other = /^([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)?,?(?: (\d{4}|\d{2}))?$/.exec(text);
	const figures = /^(\d{1,2})[./](\d{1,2})(?:[./](\d{4}|\d{2})?)?$/.exec(text);
	const [month, date, year] = worded
		? [monthOf(worded[2]), worded[1], worded[3]]
		: other
			? [monthOf(other[1]), other[2], other[3]]
			: figures
				? [Number(figures[2]), figures[1], figures[3]]
				: [0, "", undefined];
	if (!month || month > 12 || !date) return null;
	return year ? dateIn(fullYear(year), month, Number(date)) : nearest(month, Number(date), today, from);
}
