import { fisher } from "./fisher";
import type { Share } from "./wilson";

/** of fewer in an arm nothing is tested */
export const TESTED_FROM = 8;

/**
 * Which of several tests are told apart when of those that are one in ten may be so by chance (Benjamini and Hochberg’s
 * step-up): sorted by p, the largest i with pᵢ ≤ 0.1 i/m, and all before it. What wasn’t tested (null) is never.
 *
 * @example toldApart([0.004, 0.03, null, 0.04, 0.2, 0.6]) // [true, true, false, true, false, false]
 */
export function toldApart(values: readonly (number | null)[], rate = 0.1): boolean[] {
	const sorted = values.filter((p): p is number => p !== null).sort((a, b) => a - b);
	const last = sorted.findLastIndex((p, i) => p <= (rate * (i + 1)) / sorted.length);
	const most = last < 0 ? Number.NEGATIVE_INFINITY : (sorted[last] as number);
	return values.map((p) => p !== null && p <= most);
}

/** A count of how many. */
export type Counted = Pick<Share, "k" | "n">;

/**
 * The p of Fisher’s exact test of two shares; null of fewer than eight in either, which isn’t tested.
 *
 * @example pOfShares({ k: 5, n: 10 }, { k: 5, n: 10 }) // 1
 */
export const pOfShares = (own: Counted, others: Counted): number | null =>
	own.n < TESTED_FROM || others.n < TESTED_FROM ? null : fisher(own.k, own.n, others.k, others.n);

/** Which rows of a table are told apart from what they are compared with, by all rows that were tested. */
export const rowsApart = (rows: readonly (readonly [own: Counted, others: Counted])[]): boolean[] =>
	toldApart(rows.map(([own, others]) => pOfShares(own, others)));

/** All but some of a count. */
export const countedWithout = (all: Counted, own: Counted): Counted => ({ k: all.k - own.k, n: all.n - own.n });
