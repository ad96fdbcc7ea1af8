import { exponentOf } from "../../core/money/currency";
import { sound } from "./fields";

export const DATE_ORDERS = ["ymd", "dmy", "mdy"] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];
export type DecimalMark = "." | ",";

const parts = (text: string) => /^(\d{1,4})[-/. ](\d{1,2})[-/. ](\d{1,4})(?:[T ,].*)?$/.exec(text.trim());

/** The order in which all of some dates can be read; the first of several, with `sure` false. Null where none reads them all. */
export function guessDates(values: readonly string[]): { order: DateOrder; sure: boolean } | null {
	const given = values.filter((value) => value.trim());
	const able = DATE_ORDERS.filter((order) => given.every((value) => readDate(value, order) !== null));
	const [order] = able;
	return order ? { order, sure: given.length === 0 || able.length === 1 } : null;
}

/** A date in an order, with any of the usual marks between, as an ISO day; a time after it is left out. Null when it can't be. */
export function readDate(text: string, order: DateOrder): string | null {
	const found = parts(text);
	if (!found) return null;
	const [, a = "", b = "", c = ""] = found;
	if (a.length > 2) return order === "ymd" ? day(a, b, c) : null;
	if (order === "ymd" || c.length < 2 || c.length === 3) return null;
	return order === "dmy" ? day(c, b, a) : day(c, a, b);
}

const day = (year: string, month: string, date: string) =>
	sound(`${year.length === 2 ? `20${year}` : year}-${month.padStart(2, "0")}-${date.padStart(2, "0")}`);

/** Which mark parts the decimals: one that stands last, or that leaves other than three digits behind it. */
export function guessDecimal(values: readonly string[]): DecimalMark {
	let point = 0;
	let comma = 0;
	for (const value of values) {
		const text = value.replace(/[^\d.,]/g, "");
		const [dot, com] = [text.lastIndexOf("."), text.lastIndexOf(",")];
		if (dot >= 0 && com >= 0) dot > com ? point++ : comma++;
		else if (dot >= 0) text.split(".").length > 2 ? comma++ : text.length - dot - 1 !== 3 && point++;
		else if (com >= 0) text.split(",").length > 2 ? point++ : text.length - com - 1 !== 3 && comma++;
	}
	return comma > point ? "," : ".";
}

/** An amount as people write it (`€ 1,234.50`, `1.234,50 EUR`) in minor units, rounded to none: null when it can't be read or has too many decimals. */
export function readMoney(text: string, mark: DecimalMark, currency: string): number | null {
	const exponent = exponentOf(currency);
	if (exponent === null) return null;
	const bare = text.replace(/[\p{Sc}\p{L}\s\u00a0'’]/gu, "");
	const other = mark === "." ? "," : ".";
	const match = /^(\(?[-−+]?)([\d.,]*\d)\)?$/.exec(bare);
	if (!match) return null;
	const [, sign = "", digits = ""] = match;
	const [whole = "", fraction = "", ...more] = digits.split(mark);
	if (more.length || fraction.includes(other)) return null;
	const groups = whole.split(other);
	if (groups.length > 1 && (groups.slice(1).some((group) => group.length !== 3) || (groups[0] ?? "").length > 3)) return null;
	const cents = fraction.replace(/0+$/, "");
	if (cents.length > exponent) return null;
	const minor = Number(`${groups.join("")}${cents.padEnd(exponent, "0")}`);
	return Number.isSafeInteger(minor) ? (/[-−(]/.test(sign) ? -minor || 0 : minor) : null;
}
