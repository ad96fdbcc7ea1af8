import type { Now } from "./clock";
import type { Context } from "./context";

/** What couldn't be written in time isn't sent in the afternoon. */
const HOURS_LATE = 3;

/** Whole minutes of the organisation's day that have passed. */
export const minutesOfDay = ({ organisation }: Pick<Context, "organisation">, now: Now): number =>
	Math.floor((now.instant - organisation.company.rules.zone.instantAt(now.day, 0)) / 60_000);

/**
 * Whether what is to come at a time of day is due, so many minutes into it: from then on for three hours.
 *
 * @example [isDueAt("07:30", 449), isDueAt("07:30", 450), isDueAt("07:30", 630)] // [false, true, false]
 */
export function isDueAt(time: string, minutes: number): boolean {
	const [hour = 0, minute = 0] = time.split(":").map(Number);
	const at = hour * 60 + minute;
	return minutes >= at && minutes < at + HOURS_LATE * 60;
}
