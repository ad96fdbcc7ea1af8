import { MONTHS, plural, WEEKDAYS } from "../words/grammar";
import { type Day, parts, weekday } from "./day";
import { ALWAYS, type Period } from "./period";

/**
 * `18 Nov`.
 *
 * @example shortDay(0) // "1 Jan"
 */
export function shortDay(day: Day): string {
	const { month, date } = parts(day);
	return `${date} ${MONTHS[month - 1]}`;
}

/**
 * `18 Nov 2026`.
 *
 * @example longDay(31) // "1 Feb 1970"
 */
export function longDay(day: Day): string {
	return `${shortDay(day)} ${parts(day).year}`;
}

/** `Wed 18 Nov`, with the year when it isn't that of the day it is seen on. */
export function spokenDay(day: Day, seen?: Day): string {
	const year = seen !== undefined && parts(seen).year !== parts(day).year ? ` ${parts(day).year}` : "";
	return `${WEEKDAYS[weekday(day)]} ${shortDay(day)}${year}`;
}

/**
 * `Oct–Dec 2026`, `Nov 2026`, or two days where the range isn't whole months.
 *
 * @example periodWords({ start: 20727, end: 20818 }) // "Oct–Dec 2026"
 */
export function periodWords(period: Period): string {
	if (period.start === ALWAYS.start && period.end === ALWAYS.end) return "any period";
	if (period.start === ALWAYS.start) return `the time to ${longDay(period.end)}`;
	if (period.end === ALWAYS.end) return `the time from ${longDay(period.start)}`;
	const first = parts(period.start);
	const last = parts(period.end);
	const whole = first.date === 1 && parts(period.end + 1).date === 1;
	if (!whole) return `${longDay(period.start)} – ${longDay(period.end)}`;
	const to = `${MONTHS[last.month - 1]} ${last.year}`;
	if (first.year === last.year && first.month === last.month) return to;
	const from = first.year === last.year ? MONTHS[first.month - 1] : `${MONTHS[first.month - 1]} ${first.year}`;
	return `${from}–${to}`;
}

/**
 * `1 working day`, `4 working days`.
 *
 * @example workingDays(1) // "1 working day"
 */
export function workingDays(n: number): string {
	return plural(n, "working day");
}
