import type ICAL from "ical.js";
import { isRecurrence, timesBetween } from "./recurrence";

/**
 * The times of what comes again in a calendar’s file, of those about between two instants (ms since the epoch); what comes more
 * often than hourly is taken as what takes place once. The calendar’s package would look for ever for a thirtieth of February.
 */
export function timesAgain(rule: ICAL.Recur, start: ICAL.Time, from: number, to: number): ICAL.Time[] {
	const text = rule.toString();
	if (!isRecurrence(text)) return [start];
	const until = rule.until ? clock(rule.until.isDate ? rule.until : rule.until.convertToZone(start.zone)) + (rule.until.isDate ? DAY - 1 : 0) : null;
	// Clocks of no zone are at most a day from any zone’s.
	return timesBetween({ rule: text.replace(/;?UNTIL=[^;]*/, ""), start: clock(start), until }, from - DAY, to + DAY).map((time) => {
		const at = new Date(time);
		const found = start.clone();
		found.resetTo(at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate(), at.getUTCHours(), at.getUTCMinutes(), at.getUTCSeconds(), start.zone);
		found.isDate = start.isDate;
		return found;
	});
}

const DAY = 86_400_000;
const clock = (time: ICAL.Time) => Date.UTC(time.year, time.month - 1, time.day, time.hour, time.minute, time.second);
