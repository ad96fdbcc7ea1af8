import { exponentOf } from "./currency";

const SIGNS: Readonly<Record<string, string>> = { EUR: "€", GBP: "£", USD: "$", JPY: "¥" };
/** No-break, so that an amount never wraps; in the text face it is as narrow as a thin space should be. */
const THIN = "\u00a0";

/**
 * What stands before an amount: the currency's sign, or its code and a thin space.
 *
 * @example currencySign("EUR") // "€"
 */
export function currencySign(currency: string): string {
	return SIGNS[currency] ?? `${currency}${THIN}`;
}

/** A count of whole things with narrow no-break spaces for thousands: `9 725`. */
export const grouped = (count: number): string => String(count).replace(/\B(?=(\d{3})+$)/g, THIN);

/**
 * Whole units with narrow no-break spaces for thousands: `412 000`. Minor units are rounded half away from zero.
 *
 * @example wholeAmount(150, "EUR") // "2"
 */
export function wholeAmount(minor: number, currency: string): string {
	const units = Math.round(Math.abs(minor) / 10 ** (exponentOf(currency) ?? 2));
	const digits = grouped(units);
	return minor < 0 && units ? `−${digits}` : digits;
}

/**
 * As `wholeAmount`, with the decimals where there are some: amounts that stand above their sum add up to it as they are read.
 *
 * @example fullAmount(150, "EUR") // "1.50"
 * @example fullAmount(200, "EUR") // "2"
 */
export function fullAmount(minor: number, currency: string): string {
	return minor % 10 ** (exponentOf(currency) ?? 2) === 0 ? wholeAmount(minor, currency) : exactAmount(minor, currency);
}

/** Short units, the largest first: from how much on, what one is, and its decimals. Each begins where the one below would round up to a thousand of its own. */
const SHORT = [
	{ from: 999_995e6, of: 1e12, unit: "tn", decimals: 2 },
	{ from: 999_995e3, of: 1e9, unit: "bn", decimals: 2 },
	{ from: 999_500, of: 1e6, unit: "m", decimals: 2 },
	{ from: 999.5, of: 1e3, unit: "k", decimals: 0 },
] as const;

/**
 * About three figures and a unit: `940`, `620k`, `4.48m`, `1.20bn`. The one way amounts are shortened.
 *
 * @example shortAmount(123_456_789_012, "EUR") // "1.23bn"
 */
export function shortAmount(minor: number, currency: string): string {
	const units = Math.abs(minor) / 10 ** (exponentOf(currency) ?? 2);
	const size = SHORT.find(({ from }) => units >= from);
	const digits = size ? `${(units / size.of).toFixed(size.decimals)}${size.unit}` : String(Math.round(units));
	return minor < 0 && digits !== "0" ? `−${digits}` : digits;
}

/**
 * A whole amount, with the decimals where there are some, its sign and its currency’s.
 *
 * @example fullMoney(-150, "EUR") // "−€1.50"
 */
export const fullMoney = (minor: number, currency: string): string =>
	`${minor < 0 ? "−" : ""}${currencySign(currency)}${fullAmount(Math.abs(minor), currency)}`;

/**
 * A short amount with its sign and its currency’s.
 *
 * @example shortMoney(-123_400_000, "EUR") // "−€1.23m"
 */
export const shortMoney = (minor: number, currency: string): string =>
	`${minor < 0 ? "−" : ""}${currencySign(currency)}${shortAmount(Math.abs(minor), currency)}`;

/**
 * An amount with all its decimals, its thousands parted by narrow spaces.
 *
 * @example exactAmount(23_450, "EUR") // "234.50"
 */
export function exactAmount(minor: number, currency: string): string {
	const exponent = exponentOf(currency) ?? 2;
	const digits = String(Math.abs(minor)).padStart(exponent + 1, "0");
	return `${minor < 0 ? "−" : ""}${grouped(Number(digits.slice(0, digits.length - exponent)))}${exponent ? `.${digits.slice(-exponent)}` : ""}`;
}
