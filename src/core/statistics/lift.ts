/** so many of both arms together are added to each */
const WEIGHT = 8;
const Z = 1.959964;
/** a lift within these is as good as none, if it is known so well */
const NONE_FROM = 0.8;
const NONE_TO = 1.25;
const ENOUGH = 20;

/**
 * The lift of a share over another, each drawn towards that of both together, so that few deals don’t make a large one:
 * (k + 8 q)/(n + 8) each, q the share of both. Null where nothing was hit at all.
 *
 * @example shrunkLift(9, 13, 12, 33).toFixed(3) // "1.578"
 */
export function shrunkLift(k1: number, n1: number, k2: number, n2: number): number | null {
	const q = (k1 + k2) / (n1 + n2);
	if (!(q > 0)) return null;
	return (k1 + WEIGHT * q) / (n1 + WEIGHT) / ((k2 + WEIGHT * q) / (n2 + WEIGHT));
}

/**
 * Whether two shares are shown to be alike: of twenty or more in each arm, their lift lies with 95% between 0.8 and 1.25.
 *
 * @example showsNothing(500, 1000, 505, 1000) // true
 * @example showsNothing(10, 20, 10, 20) // false
 */
export function showsNothing(k1: number, n1: number, k2: number, n2: number): boolean {
	if (n1 < ENOUGH || n2 < ENOUGH || k1 === 0 || k2 === 0) return false;
	const middle = Math.log(k1 / n1 / (k2 / n2));
	const half = Z * Math.sqrt(Math.max(0, 1 / k1 - 1 / n1 + 1 / k2 - 1 / n2));
	return Math.exp(middle - half) >= NONE_FROM && Math.exp(middle + half) <= NONE_TO;
}
