/** A Kaplan–Meier curve: after each length at which something finished, the share that goes on. */
export interface Survival {
	readonly curve: readonly { readonly length: number; readonly share: number }[];
	/** the smallest length at which half or less goes on; null where that isn't reached */
	readonly median: number | null;
}

/**
 * The Kaplan–Meier estimate over finished lengths, and unfinished ones of which only is known that they are longer.
 *
 * @example survivalOf([5, 8, 8, 15], [12, 20]).median // 8
 */
export function survivalOf(finished: readonly number[], unfinished: readonly number[]): Survival {
	const ends = new Map<number, number>();
	for (const length of finished) ends.set(length, (ends.get(length) ?? 0) + 1);
	const all = [...finished, ...unfinished].sort((a, b) => a - b);
	const curve: { length: number; share: number }[] = [];
	let share = 1;
	let median: number | null = null;
	let before = 0;
	for (const length of [...ends.keys()].sort((a, b) => a - b)) {
		while (before < all.length && (all[before] as number) < length) before++;
		share *= 1 - (ends.get(length) as number) / (all.length - before);
		curve.push({ length, share });
		// A half that sums of fractions come to isn't always one half to the last bit.
		if (median === null && share <= 0.5 + 1e-12) median = length;
	}
	return { curve, median };
}
