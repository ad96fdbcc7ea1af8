import type { Company } from "../company";
import { anyOpenOn } from "../norms";
import type { Calendar } from "../time/calendar";
import type { Day } from "../time/day";
import { monthOf, type Period, quarterAt, quarterIndex } from "../time/period";

/** A period that is over, and the day before its end on which it is looked at. */
export interface Looked {
	readonly period: Period;
	readonly day: Day;
}

/** The latest day from which so many working days are left to a day. */
export function daysBefore(calendar: Calendar, end: Day, workingDays: number): Day {
	let day = end;
	while (calendar.between(day, end) < workingDays) day--;
	return day;
}

/** so many periods are looked back for those that have deals */
const BACK = 60;

/** The last periods of a kind that ended before a day and have deals open on the day that is looked at, the latest first. */
export function lastPeriods(company: Company, kind: "quarter" | "month", seen: Day, count: number, lead: number): Looked[] {
	const { fiscal, calendar } = company.rules;
	const found: Looked[] = [];
	const at = quarterIndex(seen, fiscal);
	let month = monthOf(seen, fiscal);
	for (let back = 1; back <= BACK && found.length < count; back++) {
		month = monthOf(month.start - 1, fiscal);
		const period = kind === "quarter" ? quarterAt(at - back, fiscal) : month;
		if (period.end >= seen) continue;
		const day = daysBefore(calendar, period.end, lead);
		if (anyOpenOn(company, day)) found.push({ period, day });
	}
	return found;
}
