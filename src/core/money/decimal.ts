/** An exact decimal: `units` / 10^`scale`. Rates and probabilities are kept so, never as floating point. */
export interface Decimal {
	readonly units: number;
	readonly scale: number;
}

/**
 * A decimal with a point (`1.1625`), or null when it isn't one or doesn't fit 2^53.
 *
 * @example parseDecimal("1.1625") // { "units": 11625, "scale": 4 }
 * @example parseDecimal("1,5") // null
 */
export function parseDecimal(text: string): Decimal | null {
	const match = /^([+-]?)(\d+)(?:\.(\d+))?$/.exec(text.trim());
	if (!match) return null;
	const fraction = (match[3] ?? "").replace(/0+$/, "");
	const units = Number(`${match[1] === "-" ? "-" : ""}${match[2]}${fraction}`);
	return Number.isSafeInteger(units) ? { units: units || 0, scale: fraction.length } : null;
}

/**
 * The nearest floating-point number, for drawing and for statistics only.
 *
 * @example toNumber({ units: 125, scale: 2 }) // 1.25
 */
export function toNumber(value: Decimal): number {
	return value.units / 10 ** value.scale;
}

/**
 * numerator / denominator (> 0), rounded half away from zero. Exact for safe integers.
 *
 * @example [divideRounded(5, 2), divideRounded(-5, 2), divideRounded(4, 3)] // [3, -3, 1]
 */
export function divideRounded(numerator: number, denominator: number): number {
	const size = Math.abs(numerator);
	// Much faster than %. Floating point may round the quotient up to the next whole number, never below its own.
	const quotient = Math.floor(size / denominator);
	const whole = quotient * denominator > size ? quotient - 1 : quotient;
	const rounded = 2 * (size - whole * denominator) >= denominator ? whole + 1 : whole;
	return numerator < 0 ? -rounded || 0 : rounded;
}

/**
 * a × b / denominator, rounded half away from zero, exact whatever the size of a × b.
 *
 * @example multiplyRounded(10, 25, 100) // 3
 */
export function multiplyRounded(a: number, b: number, denominator: number): number {
	const product = a * b;
	if (Number.isSafeInteger(product) && Number.isSafeInteger(denominator)) return divideRounded(product, denominator);
	const n = BigInt(a) * BigInt(b);
	const d = BigInt(denominator);
	const rest = n % d;
	const size = rest < 0n ? -rest : rest;
	const whole = n / d;
	return Number(2n * size >= d ? whole + (n < 0n ? -1n : 1n) : whole);
}

/**
 * Half away from zero to a whole number, for values that are not money.
 *
 * @example [roundHalfAway(2.5), roundHalfAway(-2.5), roundHalfAway(2.4)] // [3, -3, 2]
 */
export function roundHalfAway(value: number): number {
	return Math.sign(value) * Math.round(Math.abs(value)) || 0;
}
