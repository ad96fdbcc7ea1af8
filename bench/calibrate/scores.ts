/** How well a forecast’s totals told what came. */

/**
 * The continuous ranked probability score of a forecast by draws: the mean distance from what came, less half the mean
 * distance between two draws. In the unit of the amounts; of a single number it is its error.
 *
 * @param draws the smallest first
 * Source: Gneiting and Raftery, Strictly Proper Scoring Rules, Prediction, and Estimation, 2007
 * @example crps([3], 5) // 2
 * @example crps([2, 4], 3) // 0.5
 */
export function crps(draws: ArrayLike<number>, came: number): number {
	const n = draws.length;
	let [off, apart] = [0, 0];
	for (let i = 0; i < n; i++) {
		const draw = draws[i] as number;
		off += Math.abs(draw - came);
		// Each draw is above those before it and below those after it.
		apart += draw * (2 * i + 1 - n);
	}
	return off / n - apart / (n * n);
}

/**
 * The score of a band that is meant to hold a part of what comes: its width, and what came outside counts by how far.
 * In the unit of the amounts; the smaller, the better.
 *
 * @example intervalScore(2, 6, 7, 0.8) // 14
 * @example intervalScore(2, 6, 5, 0.8) // 4
 */
export const intervalScore = (low: number, high: number, came: number, meant: number): number =>
	high - low + (2 / (1 - meant)) * (Math.max(0, low - came) + Math.max(0, came - high));

/** The mean of some numbers; null of none. */
export const mean = (values: readonly number[]): number | null => (values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : null);
