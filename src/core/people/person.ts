import { type Day, NO_DAY } from "../time/day";

/** When somebody works here: first and last day, NO_DAY where it is open-ended. */
export interface Employment {
	readonly activeFrom: Day;
	readonly activeTo: Day;
}

/**
 * Whether a person works here on a day.
 *
 * @example [worksOn({ activeFrom: 10, activeTo: 20 }, 20), worksOn({ activeFrom: 10, activeTo: 20 }, 21)] // [true, false]
 */
export function worksOn(person: Employment, day: Day): boolean {
	// NO_DAY is before every day, so an open start needs no case of its own.
	return person.activeFrom <= day && (person.activeTo === NO_DAY || person.activeTo >= day);
}
