const SQRT_PI = Math.sqrt(Math.PI);
/** up to here the series is short and exact, from here on the fraction is */
const SERIES_TO = 2.5;
const TERMS = 120;

/** 1 − erf(x) for x ≥ 0: erf’s power series near 0, the continued fraction further out (Abramowitz and Stegun, 7.1.6 and 7.1.14). */
function erfc(x: number): number {
	if (x < SERIES_TO) {
		let [term, sum] = [x, x];
		for (let n = 1; n < TERMS; n++) {
			term *= (2 * x * x) / (2 * n + 1);
			sum += term;
		}
		return 1 - (2 / SQRT_PI) * Math.exp(-x * x) * sum;
	}
	let fraction = 0;
	for (let n = TERMS; n > 0; n--) fraction = n / 2 / (x + fraction);
	return Math.exp(-x * x) / (SQRT_PI * (x + fraction));
}

/**
 * How likely the standard normal distribution is at least so far from 0, on either side.
 *
 * @example twoSided(1.959964).toFixed(6) // "0.050000"
 * @example twoSided(0) // 1
 */
export const twoSided = (z: number): number => erfc(Math.abs(z) / Math.SQRT2);
