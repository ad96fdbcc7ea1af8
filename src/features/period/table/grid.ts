import { formatAmount, parseAmount } from "@/core/money/amount";
import { exponentOf } from "@/core/money/currency";

/** A cell of the grid of targets as it is typed: an amount, with the code of its currency where that isn't the base. */
export interface TypedAmount {
	/** minor units; null where nothing is typed */
	readonly amount: number | null;
	readonly currency: string;
}

/**
 * Reads what is typed or pasted: `450 000`, `450,000.50`, `450000 GBP`; nothing is no target. In words why it can't be
 * read.
 *
 * @example readTyped("450 000", "EUR") // { "amount": 45000000, "currency": "EUR" }
 */
export function readTyped(text: string, base: string): TypedAmount | string {
	const match = /^\s*([^A-Za-z]*?)\s*([A-Za-z]{3})?\s*$/.exec(text);
	if (!match) return `“${text.trim()}” isn’t an amount such as 450 000 or 450 000 GBP`;
	const currency = (match[2] ?? base).toUpperCase();
	if (exponentOf(currency) === null) return `${currency} isn’t a currency code of ISO 4217`;
	const digits = (match[1] ?? "").replace(/[\s\u00a0\u202f'’€£$]/g, "");
	if (!digits) return match[2] ? `“${text.trim()}” has no amount` : { amount: null, currency };
	const plain = plainNumber(digits);
	const amount = plain === null ? "not a number" : parseAmount(plain, currency);
	if (typeof amount === "number") return amount < 0 ? "a target can’t be negative" : { amount, currency };
	return amount === "not a number" ? `“${text.trim()}” isn’t an amount such as 450 000 or 450 000 GBP` : `“${text.trim()}”: ${amount}`;
}

/** Digits with either decimal mark and either mark of thousands; null where it can be read in no way. */
function plainNumber(digits: string): string | null {
	if (/^\d+$/.test(digits)) return digits;
	if (/^\d{1,3}([.,]\d{3})+$/.test(digits)) return digits.replace(/[.,]/g, "");
	const match = /^(\d{1,3}(?:([.,])\d{3})*|\d+)([.,])(\d{1,2})$/.exec(digits);
	if (!match || match[2] === match[3]) return null;
	return `${(match[1] ?? "").replace(/[.,]/g, "")}.${match[4]}`;
}

/** An amount as the grid shows it. */
export const typedOf = (amount: number, currency: string, base: string): string => {
	const [whole = "", fraction] = formatAmount(amount, currency).split(".");
	const text = `${whole.replace(/\B(?=(\d{3})+$)/g, " ")}${fraction ? `.${fraction}` : ""}`;
	return currency === base ? text : `${text} ${currency}`;
};

/** A block of cells as a spreadsheet copies it: rows by lines, cells by tabs. */
export const pastedCells = (text: string): string[][] =>
	text
		.replace(/\r\n?/g, "\n")
		.replace(/\n$/, "")
		.split("\n")
		.map((line) => line.split("\t"));
