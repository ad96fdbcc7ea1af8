import * as rrule from "rrule";
import { formatDay, parseDay } from "@/core/time/day";
import type { Zone } from "@/core/time/zone";

/** The package has its names where it is bundled, and under one where Node loads it. */
const { RRule } = ("RRule" in rrule ? rrule : (rrule as { default: typeof rrule }).default) as typeof rrule;

const OFTEN = new Set([RRule.YEARLY, RRule.MONTHLY, RRule.WEEKLY, RRule.DAILY, RRule.HOURLY]);

/** Whether a text is a rule that says when to fetch: RFC 5545, hourly at most. */
export function isRule(rule: string): boolean {
	try {
		const { freq, ...options } = RRule.parseString(rule);
		if (freq === undefined || !OFTEN.has(freq)) return false;
		// It has to come at least once.
		return new RRule({ ...options, freq, dtstart: new Date(0) }).after(new Date(0)) !== null;
	} catch {
		return false;
	}
}

/**
 * The next time by a rule after an instant, as clocks of a zone show it; null when it has ended. What the rule doesn’t name
 * (hours, minutes) is as at its start.
 *
 * @param start when it was set, ms since the epoch
 * @example nextTime("FREQ=DAILY;BYHOUR=6;BYMINUTE=0", start, now, zone) // six o’clock of the next morning
 */
export function nextTime(rule: string, start: number, after: number, zone: Zone): number | null {
	// The package reckons with clocks of no zone: what they show here is handed to it as if it were UTC.
	const shown = (instant: number) => new Date(instant - (zone.instantAt(zone.dayOf(instant), 0) - Date.parse(formatDay(zone.dayOf(instant)))));
	const begun = shown(start);
	begun.setUTCSeconds(0, 0);
	const found = new RRule({ ...RRule.parseString(rule), dtstart: begun }).after(shown(after));
	if (!found) return null;
	const day = parseDay(found.toISOString().slice(0, 10)) ?? 0;
	const next = zone.instantAt(day, found.getTime() % 86_400_000);
	// Where a clock is put back the same time comes twice: it is fetched once.
	return next > after ? next : next + 3_600_000;
}
