import type { Calendar } from "./calendar";
import { type Day, parts, weekday } from "./day";

/** The days on which something comes again: days of the week (1 Monday to 7 Sunday), each month’s first working day, or the days of planned rounds. */
export type Rhythm =
	| { readonly kind: "weekdays"; readonly days: readonly number[] }
	| { readonly kind: "month" }
	/** `weekday` of the round, 1 Monday to 7 Sunday; a holiday moves it to the next working day */
	| { readonly kind: "round"; readonly weekday: number };

/** Monday is 1, Sunday 7. */
const isoWeekday = (day: Day): number => weekday(day) || 7;

/**
 * Whether a day is one of a rhythm’s. What falls on a day nobody works comes on the next working day, once.
 *
 * @param calendar the working days
 */
export function isOfRhythm(rhythm: Rhythm, day: Day, calendar: Calendar): boolean {
	if (!calendar.isWorking(day)) return false;
	// The days that have moved to this one: those since the working day before it.
	let first = day;
	while (!calendar.isWorking(first - 1)) first--;
	const own = Array.from({ length: day - first + 1 }, (_, i) => first + i);
	switch (rhythm.kind) {
		case "weekdays":
			return own.some((one) => rhythm.days.includes(isoWeekday(one)));
		case "round":
			return own.some((one) => isoWeekday(one) === rhythm.weekday);
		case "month":
			return own.some((one) => parts(one).date === 1);
	}
}
