import { exponentOf } from "../../core/money/currency";

/** Signs and short words for currencies, as they stand beside amounts; the longest first. Of those that several share, all. */
const MARKS: readonly (readonly [mark: string, codes: readonly string[]])[] = [
	["US$", ["USD"]],
	["CA$", ["CAD"]],
	["AU$", ["AUD"]],
	["NZ$", ["NZD"]],
	["HK$", ["HKD"]],
	["MX$", ["MXN"]],
	["SFr", ["CHF"]],
	["lei", ["RON"]],
	["C$", ["CAD"]],
	["A$", ["AUD"]],
	["S$", ["SGD"]],
	["R$", ["BRL"]],
	["zł", ["PLN"]],
	["zl", ["PLN"]],
	["Kč", ["CZK"]],
	["Ft", ["HUF"]],
	["Fr", ["CHF"]],
	["kr", ["SEK", "NOK", "DKK", "ISK"]],
	["лв", ["BGN"]],
	["€", ["EUR"]],
	["£", ["GBP"]],
	["¥", ["JPY", "CNY"]],
	["₹", ["INR"]],
	["₺", ["TRY"]],
	["₽", ["RUB"]],
	["₩", ["KRW"]],
	["₪", ["ILS"]],
	["₴", ["UAH"]],
	["฿", ["THB"]],
	["₫", ["VND"]],
	["$", ["USD", "CAD", "AUD", "NZD", "HKD", "SGD", "MXN"]],
];
/** Words that are no codes and mean one. */
const WORDS: Readonly<Record<string, readonly string[]>> = { euro: ["EUR"], euros: ["EUR"] };

const LETTER = /\p{L}/u;

/** An amount's text without its currency, and the currencies that may be meant; none where nothing is said. */
export interface Marked {
	readonly rest: string;
	readonly codes: readonly string[];
}

/**
 * Takes a currency's sign, word or ISO 4217 code from beside an amount.
 *
 * @param isSuffix whether a word multiplies the amount instead, such as `mio`
 * @example takeCurrency("CA$1 200", () => false) // {"rest":" 1 200","codes":["CAD"]}
 * @example takeCurrency("1 200 kr", () => false).codes // ["SEK", "NOK", "DKK", "ISK"]
 */
export function takeCurrency(text: string, isSuffix: (word: string) => boolean): Marked {
	for (const [mark, codes] of MARKS) {
		const at = text.toLowerCase().indexOf(mark.toLowerCase());
		if (at < 0) continue;
		const [before, after] = [text.slice(0, at), text.slice(at + mark.length)];
		// A mark of letters is a word of its own: `Ft` isn't in `after`.
		if (LETTER.test(mark[0] as string) && LETTER.test(before.at(-1) ?? "")) continue;
		if (LETTER.test(mark.at(-1) as string) && LETTER.test(after[0] ?? "")) continue;
		return { rest: `${before} ${LETTER.test(mark.at(-1) as string) ? after.replace(/^\./, "") : after}`, codes };
	}
	for (const found of text.matchAll(/(?<!\p{L})\p{L}{3,5}(?!\p{L})/gu)) {
		const word = found[0];
		const code = word.toUpperCase();
		const codes = WORDS[word.toLowerCase()] ?? (word.length === 3 && !isSuffix(word.toLowerCase()) && exponentOf(code) !== null ? [code] : null);
		if (codes) return { rest: `${text.slice(0, found.index)} ${text.slice(found.index + word.length)}`, codes };
	}
	return { rest: text, codes: [] };
}

/** Currencies that can be put into the base. */
export interface Rated {
	has(code: string): boolean;
}

/**
 * Which of several currencies is meant: the file's own, else the only one that has a rate, else the only one there is; of
 * dollars the American, of yen and yuan the yen. Null where that doesn't say.
 */
export function meantCurrency(codes: readonly string[], own: string, known: Rated): string | null {
	if (!codes.length || codes.includes(own)) return own;
	const rated = codes.filter((code) => known.has(code));
	if (rated.length === 1) return rated[0] as string;
	if (codes.length === 1) return codes[0] as string;
	return codes[0] === "USD" || codes[0] === "JPY" ? codes[0] : null;
}
