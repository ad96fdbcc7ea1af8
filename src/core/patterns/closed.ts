import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { byId } from "../deal/order";
import type { DealSeen } from "../dealSeen";
import type { Inspected } from "../inspect";
import type { Day } from "../time/day";

/** so many calendar days are looked back, where no periods are */
export const WINDOW = 365;

/** A deal that stands won or lost on a day and was closed within the year before. */
export interface Closed {
	readonly seen: DealSeen;
	readonly won: boolean;
	readonly day: Day;
	/** the stage it stood in last while it was open; −1: none */
	readonly from: number;
}

/** The deals of some people that were closed in (day − 365, day], as seen on that day; by their ids. */
export function closedWithin(company: Company, survey: Inspected, scope: Scope, day: Day): Closed[] {
	const order = byId(company);
	const closed = survey.deals.flatMap((seen): Closed[] => {
		if (!seen || seen.status === "open" || !ownerIn(scope, seen.owner)) return [];
		const closed = seen.closedDay;
		if (closed <= day - WINDOW || closed > day) return [];
		return [{ seen, won: seen.status === "won", day: closed, from: seen.path.visits.at(-1)?.stage ?? -1 }];
	});
	return closed.sort((a, b) => order(a.seen.deal, b.seen.deal));
}

/**
 * The mean of some numbers; null of fewer than five, of which nothing is said.
 *
 * @example [meanSaid([1, 2, 3, 4, 5]), meanSaid([1, 2, 3, 4])] // [3, null]
 */
export function meanSaid(values: readonly number[], least = 5): number | null {
	return values.length < least ? null : values.reduce((sum, value) => sum + value, 0) / values.length;
}
