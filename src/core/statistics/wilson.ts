/** A share, k of n, with its Wilson interval at 95%; of fewer than `LEAST` nothing is said. */
export interface Share {
	readonly k: number;
	readonly n: number;
	readonly share: number | null;
	readonly low: number | null;
	readonly high: number | null;
}

const Z = 1.959964;
/** of so few nothing is said */
export const LEAST = 5;

/**
 * The share of k in n with the Wilson score interval at 95%.
 *
 * @example shareOf(7, 10).share // 0.7
 */
export function shareOf(k: number, n: number): Share {
	if (n < LEAST) return { k, n, share: null, low: null, high: null };
	const centre = (k + Z ** 2 / 2) / (n + Z ** 2);
	const half = (Z / (n + Z ** 2)) * Math.sqrt((k * (n - k)) / n + Z ** 2 / 4);
	return { k, n, share: k / n, low: Math.max(0, centre - half), high: Math.min(1, centre + half) };
}

/**
 * Whether two shares can be told apart: both are said, and their intervals don't overlap.
 *
 * @example apart(shareOf(1, 50), shareOf(40, 50)) // true
 */
export function apart(a: Share, b: Share): boolean {
	if (a.low === null || a.high === null || b.low === null || b.high === null) return false;
	return a.low > b.high || a.high < b.low;
}
