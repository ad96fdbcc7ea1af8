import { type Counted, pOfShares, rowsApart } from "@/core/statistics/toldApart";
import { byCount, plural } from "@/core/words/grammar";

/** A share in whole per cent; a dash where nothing is said. */
export const percent = (value: number | null): string => (value === null ? "–" : `${Math.round(100 * value)}%`);

/** How an answer is known, as its own screen calls it. */
export const levelWords = (level: string): string => (level === "against" ? "against us" : level);

/** What a grouping is called where nothing is said of a deal. */
export const spelt = (text: string | null | undefined, none: string): string => text?.replaceAll("_", " ") || none;

/**
 * How many rows of a table were compared with their others, and how many differ: a reader has to know, since of many rows some
 * always look unusual.
 *
 * @param what what a row is about: "rep"
 */
export function comparedWords(what: string, rows: readonly (readonly [own: Counted, others: Counted])[]): string {
	const tested = rows.filter(([own, others]) => pOfShares(own, others) !== null).length;
	return testedWords(what, tested, rowsApart(rows).filter(Boolean).length);
}

/** The same by how many were tested, and how many differ. */
export const testedWords = (what: string, tested: number, apart: number): string =>
	`${plural(tested, what)} had enough deals to be tested; ${apart} ${byCount(apart, "differs", "differ")} by more than chance (one in ten of these may still be chance).`;
