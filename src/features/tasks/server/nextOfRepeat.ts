import * as rrule from "rrule";
import type { Calendar } from "@/core/time/calendar";
import { type Day, formatDay, parseDay } from "@/core/time/day";

/** The package has its names where it is bundled, and under one where Node loads it. */
const { datetime, RRule } = ("RRule" in rrule ? rrule : (rrule as { default: typeof rrule }).default) as typeof rrule;

/**
 * The day on which a repeated task is due next: the first of its rule after both the day it was due and today, moved on to
 * a working day. Null when the rule has ended.
 *
 * @example nextOfRepeat("FREQ=WEEKLY;INTERVAL=1", due, today, calendar)
 */
export function nextOfRepeat(rule: string, due: Day, today: Day, calendar: Calendar): Day | null {
	const at = (day: Day) => {
		const [year = 1970, month = 1, date = 1] = formatDay(day).split("-").map(Number);
		return datetime(year, month, date);
	};
	const found = new RRule({ ...RRule.parseString(rule), dtstart: at(due) }).after(at(Math.max(due, today)));
	const day = found && parseDay(found.toISOString().slice(0, 10));
	if (day === null) return null;
	return calendar.isWorking(day) ? day : calendar.add(day, 1);
}
