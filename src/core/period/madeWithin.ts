import type { Company } from "../company";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { winsIn, workingDayOf } from "./pace";

/** By which working day of a period those deals were made that were won within it. */
export interface MadeWithin {
	/** how many deals were made and won within one of the periods, and how many the periods are */
	readonly wins: number;
	readonly periods: number;
	/** the working day by whose end nine of ten of them were made, of few all; null of fewer than that says anything */
	readonly workingDay: number | null;
	/** the working day is that of the last of them */
	readonly all: boolean;
}

/** of fewer wins nothing is said, and from so many on nine of ten of them are told */
const [FEWEST, ENOUGH] = [5, 20];

/** How late in past periods everyone’s deals were made that were still won within the same period, as known on a day. */
export function madeWithin(company: Company, periods: readonly Period[], seen: Day): MadeWithin {
	const made = periods.flatMap((period) =>
		winsIn(company, period, null, seen, seen).flatMap(({ deal }) => {
			const created = company.deals[deal]?.createdDay;
			return created !== undefined && created >= period.start ? [workingDayOf(company.rules.calendar, period, created)] : [];
		}),
	);
	made.sort((a, b) => a - b);
	const all = made.length < ENOUGH;
	const last = all ? made.at(-1) : made[Math.ceil(0.9 * made.length) - 1];
	return { wins: made.length, periods: periods.length, workingDay: made.length < FEWEST ? null : (last ?? null), all };
}
