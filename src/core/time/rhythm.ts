import type { Calendar } from "./calendar";
import { type Day, parts, weekday } from "./day";

/** The days on which something comes again: days of the week (1 Monday to 7 Sunday) or each month’s first working day. */
export type Rhythm = { readonly kind: "weekdays"; readonly days: readonly number[] } | { readonly kind: "month" };

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
		case "month":
			return own.some((one) => parts(one).date === 1);
	}
}
