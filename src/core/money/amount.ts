import { exponentOf } from "./currency";

/** No company has an amount of more minor units than these: what is larger was mistyped or misread. */
export const MOST_AMOUNT = 1e13;

export type AmountProblem = "not a number" | "too many decimals" | "too large" | "unknown currency";

/**
 * A decimal amount (`412000.50`) in minor units of its currency, or why it can't be.
 *
 * @example [parseAmount("12.5", "EUR"), parseAmount("12", "JPY")] // [1250, 12]
 */
export function parseAmount(text: string, currency: string): number | AmountProblem {
	const exponent = exponentOf(currency);
	if (exponent === null) return "unknown currency";
	const match = /^([+-]?)(\d+)(?:\.(\d+))?$/.exec(text.trim());
	if (!match) return "not a number";
	const fraction = (match[3] ?? "").replace(/0+$/, "");
	if (fraction.length > exponent) return "too many decimals";
	const minor = Number(`${match[2]}${fraction.padEnd(exponent, "0")}`);
	if (!Number.isSafeInteger(minor)) return "too large";
	return match[1] === "-" ? -minor || 0 : minor;
}

/**
 * Minor units as a decimal with a point; the reverse of `parseAmount`.
 *
 * @example [formatAmount(1250, "EUR"), formatAmount(12, "JPY")] // ["12.5", "12"]
 */
export function formatAmount(minor: number, currency: string): string {
	const exponent = exponentOf(currency) ?? 2;
	const digits = String(Math.abs(minor)).padStart(exponent + 1, "0");
	const whole = digits.slice(0, digits.length - exponent);
	const fraction = exponent ? digits.slice(-exponent).replace(/0+$/, "") : "";
	return `${minor < 0 ? "-" : ""}${whole}${fraction ? `.${fraction}` : ""}`;
}
