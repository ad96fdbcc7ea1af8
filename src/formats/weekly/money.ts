import { exponentOf } from "../../core/money/currency";
import { currencySign } from "../../core/money/words";

export const DECIMAL_MARKS = [".", ","] as const;
export type DecimalMark = (typeof DECIMAL_MARKS)[number];

/** What stands after a number and multiplies it, in English, German, French and Spanish. `MM` is a million, as bankers write it. */
const SUFFIXES: Readonly<Record<string, number>> = {
	k: 3,
	tsd: 3,
	thousand: 3,
	m: 6,
	mm: 6,
	mn: 6,
	mio: 6,
	mill: 6,
	million: 6,
	millions: 6,
	millionen: 6,
	millones: 6,
	bn: 9,
	mrd: 9,
	md: 9,
	billion: 9,
	milliarden: 9,
};
/** Words for a currency that stand beside amounts without saying which of several. */
const MONEY_WORDS = new Set(["euro", "euros", "eur"]);

/** Why a cell is no amount. */
export type MoneyFault = "not an amount" | "a percentage" | "unknown suffix" | "two marks" | "groups" | "decimals" | "too large";

export const MONEY_FAULTS: Readonly<Record<MoneyFault, string>> = {
	"not an amount": "this isn’t an amount",
	"a percentage": "this is a percentage, not an amount",
	"unknown suffix": "what stands beside the number isn’t known; k, Tsd., m, mn, Mio. and bn are",
	"two marks": "this doesn’t fit the chosen decimal mark",
	groups: "its digits aren’t parted by threes",
	decimals: "it has more decimals than its currency",
	"too large": "this amount is too large to be kept exactly",
};

interface Parsed {
	readonly negative: boolean;
	/** digits and marks alone, spaces and apostrophes between groups as they are */
	readonly digits: string;
	/** the power of ten that a suffix multiplies by */
	readonly power: number;
}

const SPACES = /[\s\u00a0\u202f\u2009]/g;
const GROUPING = /[\s\u00a0\u202f\u2009'’]/;

/** A cell taken apart: its sign, its digits and its suffix. */
function takeApart(text: string, currency: string): Parsed | MoneyFault {
	const bare = text.trim().replace(/\p{Sc}/gu, " ");
	if (/[%‰]/.test(bare)) return "a percentage";
	const shape =
		/^(\(?)\s*([-−–+]?)\s*([A-Za-z.]*?)\s*([-−–+]?)\s*(\d[\d.,\s\u00a0\u202f\u2009'’]*|[.,]\d+)\s*([A-Za-zÀ-ÿ.]*?(?:\s+[A-Za-zÀ-ÿ.]+)*)\s*([-−–]?)\s*(\)?)$/.exec(
			bare,
		);
	if (!shape) return "not an amount";
	const [, open = "", sign1 = "", before = "", sign2 = "", digits = "", after = "", trailing = "", shut = ""] = shape;
	if (Boolean(open) !== Boolean(shut)) return "not an amount";
	let power = 0;
	for (const word of `${before} ${after}`
		.split(/[\s]+/)
		.map((one) => one.replace(/\./g, "").toLowerCase())
		.filter(Boolean)) {
		if (MONEY_WORDS.has(word) || word.toUpperCase() === currency || exponentOf(word.toUpperCase()) !== null) continue;
		const times = Object.hasOwn(SUFFIXES, word) ? SUFFIXES[word] : undefined;
		if (times === undefined || power) return "unknown suffix";
		power = times;
	}
	const minus = [sign1, sign2, trailing].filter((sign) => /[-−–]/.test(sign)).length + (open ? 1 : 0);
	if (minus > 1) return "not an amount";
	return { negative: minus === 1, digits: digits.trim().replace(/[.,]+$/, ""), power };
}

/**
 * An amount as people write it (`€ 1,234.50`, `1.234,50 EUR`, `1.2M`, `450k`, `(500)`, `500-`) in minor units of a
 * currency, with a decimal mark; or why it can't be read so.
 *
 * @example readMoney("1.2M", ".", "EUR") // 120000000
 * @example readMoney("1.200", ",", "EUR") // 120000
 * @example readMoney("1.200,5", ".", "EUR") // "two marks"
 */
export function readMoney(text: string, mark: DecimalMark, currency: string): number | MoneyFault {
	const exponent = exponentOf(currency);
	if (exponent === null) return "not an amount";
	const parsed = takeApart(text, currency);
	if (typeof parsed === "string") return parsed;
	const { negative, digits, power } = parsed;
	const other = mark === "." ? "," : ".";
	const [whole = "", fraction = "", ...more] = digits.split(mark);
	if (more.length || fraction.includes(other) || GROUPING.test(fraction)) return "two marks";
	const groups = whole.replace(SPACES, " ").split(new RegExp(`[${other} '’]`));
	if (groups.length > 1 && (groups.slice(1).some((group) => group.length !== 3) || !/^\d{1,3}$/.test(groups[0] ?? ""))) return "groups";
	const decimals = fraction.replace(/0+$/, "");
	const places = exponent + power;
	if (decimals.length > places) return "decimals";
	const minor = Number(`${groups.join("")}${decimals.padEnd(places, "0")}`);
	if (!Number.isSafeInteger(minor)) return "too large";
	return negative ? -minor || 0 : minor;
}

/** A sign or code of another currency that stands beside an amount; null where there is none, or where it can't be told. */
export function foreignSign(text: string, currency: string): string | null {
	const [sign, own] = [/\p{Sc}/u.exec(text)?.[0], currencySign(currency)];
	if (sign && own.length === 1 && own !== sign) return sign;
	const code = /(?<![A-Za-z])[A-Za-z]{3}(?![A-Za-z])/.exec(text)?.[0]?.toUpperCase();
	return code && code !== currency && !Object.hasOwn(SUFFIXES, code.toLowerCase()) && exponentOf(code) !== null ? code : null;
}

/** One amount of a column: its cell, its currency, and (where the deal was there last week) what it was then, in minor units. */
export interface AmountCell {
	readonly text: string;
	readonly currency: string;
	readonly before: number | null;
}

/** How a column of amounts can be read. */
export interface AmountReading {
	readonly mark: DecimalMark;
	/** how many of the cells can't be read so */
	readonly unread: number;
	/** deals that were there last week, and how many of them are within three times of what they were then */
	readonly known: number;
	readonly alike: number;
}

const ALIKE = 3;

/** What each decimal mark makes of a column. */
export function amountReadings(cells: readonly AmountCell[]): AmountReading[] {
	return DECIMAL_MARKS.map((mark) => {
		let [unread, known, alike] = [0, 0, 0];
		for (const { text, currency, before } of cells) {
			const value = readMoney(text, mark, currency);
			if (typeof value === "string") unread++;
			else if (before) {
				known++;
				if (value !== 0 && Math.abs(value) <= ALIKE * Math.abs(before) && Math.abs(before) <= ALIKE * Math.abs(value)) alike++;
			}
		}
		return { mark, unread, known, alike };
	});
}

/**
 * The decimal mark of a column of amounts, read as a whole: the one by which every amount can be read; where both can
 * and make different amounts of it, the one by which last week's deals are about what they were. `sure` is false where
 * that doesn't say either: then it has to be asked.
 *
 * @example guessDecimal([{ text: "1.200", currency: "EUR", before: null }]) // { "mark": ".", "sure": false }
 * @example guessDecimal([{ text: "1.200", currency: "EUR", before: 110_000 }]) // { "mark": ",", "sure": true }
 */
export function guessDecimal(cells: readonly AmountCell[]): { mark: DecimalMark; sure: boolean } {
	const [point, comma] = amountReadings(cells) as [AmountReading, AmountReading];
	if (point.unread !== comma.unread) return { mark: point.unread < comma.unread ? "." : ",", sure: true };
	const differ = cells.some(({ text, currency }) => {
		const [a, b] = DECIMAL_MARKS.map((mark) => readMoney(text, mark, currency));
		return typeof a === "number" && typeof b === "number" && a !== b;
	});
	if (!differ) return { mark: ".", sure: true };
	// Most of last week's deals must speak for one, and hardly any for the other.
	const speaks = (one: AmountReading, other: AmountReading) => one.alike * 2 > one.known && other.alike * 4 < one.alike;
	if (speaks(point, comma)) return { mark: ".", sure: true };
	if (speaks(comma, point)) return { mark: ",", sure: true };
	return { mark: ".", sure: false };
}
