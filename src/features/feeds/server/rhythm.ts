import { formatDay, parseDay } from "@/core/time/day";
import type { Zone } from "@/core/time/zone";
import { isRecurrence, nextTimeOf } from "@/formats/calendar/recurrence";

const HOUR = 3_600_000;

/** Whether a text is a rule that says when to fetch: RFC 5545, hourly at most, and it has to come at least once. */
export function isRule(rule: string): boolean {
	const start = Date.UTC(2026, 0, 1);
	return isRecurrence(rule) && nextTimeOf({ rule, start, until: null }, start) !== null;
}

/**
 * The next time by a rule after an instant, as clocks of a zone show it; null when it has ended. What the rule doesn’t name
 * (hours, minutes) is as at its start.
 *
 * @param start when it was set, ms since the epoch
 * @example nextTime("FREQ=DAILY;BYHOUR=6;BYMINUTE=0", start, now, zone) // six o’clock of the next morning
 */
export function nextTime(rule: string, start: number, after: number, zone: Zone): number | null {
	const shown = (instant: number) => instant - (zone.instantAt(zone.dayOf(instant), 0) - Date.parse(formatDay(zone.dayOf(instant))));
	const found = nextTimeOf({ rule, start: Math.floor(shown(start) / 60_000) * 60_000 }, shown(after));
	if (found === null) return null;
	const day = parseDay(new Date(found).toISOString().slice(0, 10)) ?? 0;
	const next = zone.instantAt(day, found % (24 * HOUR));
	// Where a clock is put back the same time comes twice: it is fetched once.
	return next > after ? next : next + HOUR;
}
