import type { Calendar } from "../time/calendar";
import type { Day } from "../time/day";

/** so many spans before one say what is usual; of fewer than `LEAST` nothing is said */
const SPANS = 8;
const LEAST = 3;

/** A span of days, both ends in it. */
export interface Span {
	readonly start: Day;
	readonly end: Day;
}

/** The spans of as many working days before one, the newest first: each ends the day before the one after it begins. */
export function spansBefore({ start, end }: Span, calendar: Calendar): Span[] {
	const days = calendar.between(start - 1, end);
	const spans: Span[] = [];
	let last = start - 1;
	for (let i = 0; i < SPANS && days > 0; i++) {
		// Its first day is the one after which there are as many working days up to its last.
		let first = last;
		for (let left = days; ; first--) {
			if (calendar.isWorking(first)) left--;
			if (left === 0) break;
		}
		spans.push({ start: first, end: last });
		last = first - 1;
	}
	return spans;
}

/** Working days of a span on which somebody worked here. */
export function workedIn({ start, end }: Span, calendar: Calendar, works: (day: Day) => boolean): number {
	let days = 0;
	for (let day = start; day <= end; day++) if (calendar.isWorking(day) && works(day)) days++;
	return days;
}

/**
 * Contacts a working day over a span, and their median over the eight spans before it: those in which somebody wasn't here
 * on any day are left out, and under three nothing is usual.
 *
 * @param touches how many contacts somebody made in a span
 */
export function contactsADay(
	span: Span,
	calendar: Calendar,
	works: (day: Day) => boolean,
	touches: (span: Span) => number,
): { perDay: number | null; usual: number | null } {
	const rate = (one: Span): number | null => {
		const days = workedIn(one, calendar, works);
		return days ? touches(one) / days : null;
	};
	const before = spansBefore(span, calendar)
		.map(rate)
		.filter((one): one is number => one !== null)
		.sort((a, b) => a - b);
	const middle = before.length >> 1;
	const median = before.length % 2 ? before[middle] : ((before[middle - 1] as number) + (before[middle] as number)) / 2;
	return { perDay: rate(span), usual: before.length < LEAST ? null : (median ?? null) };
}
