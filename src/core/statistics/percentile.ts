/**
 * The p-quantile (0 to 1) of values, by linear interpolation between order statistics at
 * h = (n − 1) p. NaN for no values. The median is p = 0.5.
 *
 * @example percentile([1, 2, 4], 0.5) // 2
 * @example percentile([10, 20], 0.75) // 17.5
 */
export function percentile(values: readonly number[], p: number): number {
	if (!values.length) return Number.NaN;
	// A typed array sorts by number, and much faster than a list with a comparison.
	const sorted = Float64Array.from(values).sort();
	return percentileOf(sorted, p);
}

/**
 * The same of numbers that are sorted already; NaN for none.
 *
 * @example percentileOf(Float64Array.of(1, 2, 3, 4), 0.5) // 2.5
 */
export function percentileOf(sorted: Float64Array, p: number): number {
	if (!sorted.length) return Number.NaN;
	const h = (sorted.length - 1) * p;
	const low = Math.floor(h);
	const lower = sorted[low] as number;
	const upper = sorted[Math.min(low + 1, sorted.length - 1)] as number;
	return lower + (h - low) * (upper - lower);
}
