import { type Day, NO_DAY } from "../time/day";
import type { Activities } from "./activities";

/**
 * The earliest day for which something is planned and not done, as known on a day, be it past; NO_DAY where nothing is.
 */
export function earliestPlanned({ columns, from, end }: Activities, seen: Day): Day {
	let earliest = NO_DAY;
	for (let row = from; row < end; row++) {
		if ((columns.recorded[row] as Day) > seen) continue;
		const isLater = (columns.settled[row] as Day) > seen;
		if (!isLater && columns.planned[row] !== 1) continue;
		const day = (isLater ? columns.plannedFor[row] : columns.day[row]) as Day;
		if (day !== NO_DAY && (earliest === NO_DAY || day < earliest)) earliest = day;
	}
	return earliest;
}
