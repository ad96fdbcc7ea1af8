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

const alone = new Map<string, readonly Buyers[]>();

/** The same entries; of most deals there is one, which holds from the beginning, and those that say the same are kept once. */
export function buyersOnce(entries: readonly Buyers[]): readonly Buyers[] {
	const [first, ...more] = entries;
	if (!first || more.length) return entries;
	const key = `${first.since} ${first.count} ${first.signatory}`;
	const known = alone.get(key);
	if (known) return known;
	alone.set(key, entries);
	return entries;
}
