/** A Kaplan–Meier curve: after each length at which something finished, the share that goes on. */
export interface Survival {
	readonly curve: readonly { readonly length: number; readonly share: number }[];
	/** the smallest length at which half or less goes on; null where that isn't reached */
	readonly median: number | null;
	/** between which lengths the median lies at 95%; an end that isn't reached is null */
	readonly interval: { readonly low: number | null; readonly high: number | null };
}

const Z = 1.959964;

/** The bounds of a share at 95% on the scale of log(−log S), from Greenwood's sum. */
function boundsOf(share: number, greenwood: number): [low: number, high: number] {
	if (share <= 0 || share >= 1) return [share, share];
	const half = (Z * Math.sqrt(greenwood)) / Math.log(share);
	return [share ** Math.exp(-half), share ** Math.exp(half)].sort((a, b) => a - b) as [number, number];
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
	let greenwood = 0;
	const interval: { low: number | null; high: number | null } = { low: null, high: null };
	for (const length of [...ends.keys()].sort((a, b) => a - b)) {
		while (before < all.length && (all[before] as number) < length) before++;
		const [ended, left] = [ends.get(length) as number, all.length - before];
		share *= 1 - ended / left;
		if (left > ended) greenwood += ended / (left * (left - ended));
		const [low, high] = boundsOf(share, greenwood);
		if (interval.low === null && low <= 0.5 + 1e-12) interval.low = length;
		if (interval.high === null && high <= 0.5 + 1e-12) interval.high = length;
		curve.push({ length, share });
		// A half that sums of fractions come to isn't always one half to the last bit.
		if (median === null && share <= 0.5 + 1e-12) median = length;
	}
	return { curve, median, interval };
}

/**
 * The mean length up to an end, each longer one counted as far as there: the area under the curve.
 *
 * @example restrictedMean([{ length: 5, share: 0.5 }], 10) // 7.5
 */
export function restrictedMean(curve: Survival["curve"], end: number): number {
	let [sum, from, share] = [0, 0, 1];
	for (const step of curve) {
		if (step.length >= end) break;
		sum += share * (step.length - from);
		[from, share] = [step.length, step.share];
	}
	return sum + share * (end - from);
}
