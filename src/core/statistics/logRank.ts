import { twoSided } from "./normal";
import { TESTED_FROM } from "./toldApart";

/** How long something lasted, or has lasted so far. */
export interface Length {
	readonly length: number;
	readonly finished: boolean;
}

/**
 * The two-sided p of the log-rank test (Mantel): how likely two groups that end alike would end as differently as these,
 * those counted that haven’t ended yet. 1 where nothing could differ; null of fewer than eight in either, which isn’t tested.
 *
 * @example logRank([], []) // null
 */
export function logRank(own: readonly Length[], others: readonly Length[]): number | null {
	if (own.length < TESTED_FROM || others.length < TESTED_FROM) return null;
	const ends = [...new Set([...own, ...others].flatMap(({ length, finished }) => (finished ? [length] : [])))];
	const atLeast = (list: readonly Length[], length: number) => list.filter((one) => one.length >= length).length;
	const ended = (list: readonly Length[], length: number) => list.filter((one) => one.finished && one.length === length).length;
	let [apart, variance] = [0, 0];
	for (const length of ends) {
		const [mine, all] = [atLeast(own, length), atLeast(own, length) + atLeast(others, length)];
		const [k, d] = [ended(own, length), ended(own, length) + ended(others, length)];
		apart += k - (d * mine) / all;
		if (all > 1) variance += (d * (mine / all) * (1 - mine / all) * (all - d)) / (all - 1);
	}
	return variance > 0 ? twoSided(apart / Math.sqrt(variance)) : 1;
}
