import { NONE } from "../history/columns";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { type Activities, isTouchAt } from "./activities";

/** What a person did with buyers in a time, and what they had planned in it and didn't do. */
export interface ContactCounts {
	readonly done: number;
	readonly undone: number;
}

/** The counts of people, by their index. */
export type CountsByPerson = ReadonlyMap<number, ContactCounts>;

/**
 * Contacts by who made them: done touches of the days of a period that were recorded and done by the end of the day
 * `seen`; and activities planned for a day of the period before `seen` that stand as planned on it.
 */
export function contactCounts(lists: Iterable<Activities>, { start, end }: Period, seen: Day): CountsByPerson {
	const counts = new Map<number, { done: number; undone: number }>();
	const within = (day: Day) => day >= start && day <= end;
	for (const { columns, from, end: last } of lists) {
		for (let row = from; row < last; row++) {
			const by = columns.by[row] as number;
			if (by === NONE || (columns.recorded[row] as Day) > seen) continue;
			const day = columns.day[row] as Day;
			const isSettled = (columns.settled[row] as Day) <= seen;
			const plannedFor = columns.planned[row] ? day : isSettled ? NO_DAY : (columns.plannedFor[row] as Day);
			const done = isTouchAt(columns, row) && isSettled && within(day) && day <= seen;
			const undone = within(plannedFor) && plannedFor < seen;
			if (!done && !undone) continue;
			const count = counts.get(by) ?? { done: 0, undone: 0 };
			counts.set(by, count);
			if (done) count.done++;
			if (undone) count.undone++;
		}
	}
	return counts;
}

/** The counts of several lists together. */
export function addedUp(all: Iterable<CountsByPerson>): CountsByPerson {
	const sum = new Map<number, ContactCounts>();
	for (const counts of all) {
		for (const [person, { done, undone }] of counts) {
			const known = sum.get(person);
			sum.set(person, known ? { done: known.done + done, undone: known.undone + undone } : { done, undone });
		}
	}
	return sum;
}
