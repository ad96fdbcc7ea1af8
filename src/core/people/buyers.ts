import type { Day } from "../time/day";

/** Who of the buyer's is on a deal from a day on. */
export interface Buyers {
	readonly since: Day;
	readonly count: number;
	/** one of them has the role of who decides */
	readonly signatory: boolean;
}

const NOBODY = { count: 0, signatory: false };

/**
 * The buyers on a deal at the end of a day; `entries` in the order of their days.
 *
 * @example buyersOn([{ since: 0, count: 1, signatory: false }, { since: 9, count: 2, signatory: true }], 8).count // 1
 */
export function buyersOn(entries: readonly Buyers[] | undefined, day: Day): Pick<Buyers, "count" | "signatory"> {
	return entries?.findLast((entry) => entry.since <= day) ?? NOBODY;
}
