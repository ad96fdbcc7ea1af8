import { MOST_AMOUNT } from "../../core/money/amount";
import { exponentOf } from "../../core/money/currency";
import { takeCurrency } from "./currencyMarks";
import type { Scale } from "./scale";

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
/** Why a cell is no amount. */
export type MoneyFault = "not an amount" | "a percentage" | "unknown suffix" | "two marks" | "groups" | "decimals" | "too large";

export const MONEY_FAULTS: Readonly<Record<MoneyFault, string>> = {
	"not an amount": "this isn’t an amount",
	"a percentage": "this is a percentage, not an amount",
	"unknown suffix": "the text beside the number isn’t known; k, Tsd., m, mn, Mio. and bn are",
	"two marks": "this doesn’t fit the chosen decimal mark",
	groups: "its digits aren’t grouped in threes",
	decimals: "it has more decimals than its currency",
	"too large": "this amount is too large",
};

interface Parsed {
	readonly negative: boolean;
	/** digits and marks alone, spaces and apostrophes between groups as they are */
	readonly digits: string;
	/** the power of ten that a suffix or an exponent multiplies by; null where there is none */
	readonly power: number | null;
}

const SPACES = /[\s\u00a0\u202f\u2009]/g;
const GROUPING = /[\s\u00a0\u202f\u2009'’]/;
const isSuffix = (word: string) => Object.hasOwn(SUFFIXES, word);

/** The currencies that a cell's sign or code may mean; none where it says none. */
export const currenciesOf = (text: string): readonly string[] => takeCurrency(text, isSuffix).codes;

/** A cell taken apart: its sign, its digits and its suffix. */
function takeApart(text: string): Parsed | MoneyFault {
	const bare = takeCurrency(text.trim(), isSuffix)
		.rest.replace(/\p{Sc}/gu, " ")
		.trim();
	if (/[%‰]/.test(bare)) return "a percentage";
	const power10 = /^([-−–+]?)(\d+(?:[.,]\d+)?)[eE]\+?(\d{1,2})$/.exec(bare);
	if (power10) return { negative: /[-−–]/.test(power10[1] ?? ""), digits: power10[2] ?? "", power: Number(power10[3]) };
	const shape =
		/^(\(?)\s*([-−–+]?)\s*([A-Za-z.]*?)\s*([-−–+]?)\s*(\d[\d.,\s\u00a0\u202f\u2009'’]*|[.,]\d+)\s*([A-Za-zÀ-ÿ.]*?(?:\s+[A-Za-zÀ-ÿ.]+)*)\s*([-−–]?)\s*(\)?)$/.exec(
			bare,
		);
	if (!shape) return "not an amount";
	const [, open = "", sign1 = "", before = "", sign2 = "", digits = "", after = "", trailing = "", shut = ""] = shape;
	if (Boolean(open) !== Boolean(shut)) return "not an amount";
	let power: number | null = null;
	for (const word of `${before} ${after}`
		.split(/[\s]+/)
		.map((one) => one.replace(/\./g, "").toLowerCase())
		.filter(Boolean)) {
		const times = isSuffix(word) ? SUFFIXES[word] : undefined;
		if (times === undefined || power !== null) return "unknown suffix";
		power = times;
	}
	const minus = [sign1, sign2, trailing].filter((sign) => /[-−–]/.test(sign)).length + (open ? 1 : 0);
	if (minus > 1) return "not an amount";
	return { negative: minus === 1, digits: digits.trim().replace(/[.,]+$/, ""), power };
}

/** How amounts of a column are read beside their mark. */
export interface MoneyForm {
	/** the power of ten the column is written in; an amount with a suffix of its own isn't */
	readonly scale?: Scale;
	/** decimals beyond the currency's are rounded, half away from zero, instead of refused */
	readonly round?: boolean;
}

/** Indian groups: `12,34,567`. */
const LAKHS = /^\d{1,2}(,\d{2})+,\d{3}$/;

/**
 * An amount as people write it (`€ 1,234.50`, `1.234,50 EUR`, `1.2M`, `450k`, `(500)`, `500-`, `1.2E+06`, `12,34,567`) in minor
 * units of a currency, with a decimal mark; or why it can't be read so.
 *
 * @example readMoney("1.2M", ".", "EUR") // 120000000
 * @example readMoney("1.200", ",", "EUR") // 120000
 * @example readMoney("1.200,5", ".", "EUR") // "two marks"
 * @example readMoney("1.5", ".", "EUR", { scale: 3 }) // 150000
 * @example readMoney("0.125", ".", "EUR", { round: true }) // 13
 */
export function readMoney(text: string, mark: DecimalMark, currency: string, { scale = 0, round = false }: MoneyForm = {}): number | MoneyFault {
	const exponent = exponentOf(currency);
	if (exponent === null) return "not an amount";
	const parsed = takeApart(text);
	if (typeof parsed === "string") return parsed;
	const { negative, digits } = parsed;
	const power = parsed.power ?? scale;
	const other = mark === "." ? "," : ".";
	const [whole = "", fraction = "", ...more] = digits.split(mark);
	if (more.length || fraction.includes(other) || GROUPING.test(fraction)) return "two marks";
	const groups = whole.replace(SPACES, " ").split(new RegExp(`[${other} '’]`));
	const threes = groups.slice(1).every((group) => group.length === 3) && /^\d{1,3}$/.test(groups[0] ?? "");
	if (groups.length > 1 && !threes && !(mark === "." && LAKHS.test(whole))) return "groups";
	const decimals = fraction.replace(/0+$/, "");
	const places = exponent + power;
	if (decimals.length > places && !round) return "decimals";
	const up = (decimals[places] ?? "0") >= "5" ? 1 : 0;
	const minor = Number(`${groups.join("")}${decimals.slice(0, places).padEnd(places, "0")}`) + up;
	if (!(minor <= MOST_AMOUNT)) return "too large";
	return negative ? -minor || 0 : minor;
}

/** One amount of a column: its cell, its currency, and (where the deal was there last week) what it was then, in minor units. */
export interface AmountCell {
	readonly text: string;
	readonly currency: string;
	readonly before: number | null;
	/** the power of ten that its column is written in */
	readonly scale?: Scale;
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
		for (const { text, currency, before, scale = 0 } of cells) {
			const value = readMoney(text, mark, currency, { scale });
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
	const differ = cells.some(({ text, currency, scale = 0 }) => {
		const [a, b] = DECIMAL_MARKS.map((mark) => readMoney(text, mark, currency, { scale }));
		return typeof a === "number" && typeof b === "number" && a !== b;
	});
	if (!differ) return { mark: ".", sure: true };
	// Most of last week's deals must speak for one, and hardly any for the other.
	const speaks = (one: AmountReading, other: AmountReading) => one.alike * 2 > one.known && other.alike * 4 < one.alike;
	if (speaks(point, comma)) return { mark: ".", sure: true };
	if (speaks(comma, point)) return { mark: ",", sure: true };
	return { mark: ".", sure: false };
}
