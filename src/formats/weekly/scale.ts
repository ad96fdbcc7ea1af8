import { type Rated, takeCurrency } from "./currencyMarks";

/** Powers of ten that a column of amounts may be written in: units, thousands, millions, billions. */
export const SCALES = [0, 3, 6, 9] as const;
export type Scale = (typeof SCALES)[number];

const SIGN = "[€$£¥₹]";
const CODE = "(?:EUR|USD|GBP|CHF|SEK|NOK|DKK|PLN|CZK|HUF|JPY|CAD|AUD|INR|BRL)";
/** What a header says its amounts are in, in English, German, French and Spanish. The larger ones first. */
const WORDS: readonly (readonly [Scale, RegExp])[] = [
	[9, new RegExp(`\\b(billions?|milliarden|milliards?|mrd|bn)\\b|${SIGN}\\s?bn\\b|\\bbn\\s?${SIGN}`, "i")],
	[6, new RegExp(`\\b(millions?|millionen|millones|mio|mill|mn)\\b|${SIGN}\\s?m\\b|(?<![\\p{L}])m\\s?(${SIGN}|${CODE}\\b)|\\(m\\)|\\bin m\\b`, "iu")],
	[
		3,
		new RegExp(
			`\\b(thousands?|tausend|tsd|milliers|miles|thsd)\\b|['’]000|\\(000s?\\)|${SIGN}\\s?[kt]\\b|(?<![\\p{L}])[kt]\\s?(${SIGN}|${CODE}\\b)|\\(k\\)|\\bin k\\b`,
			"iu",
		),
	],
];

/**
 * What a header or a title says amounts are in; null where it says nothing.
 *
 * @example scaleIn("Value (k EUR)") // 3
 * @example scaleIn("Mio. €") // 6
 * @example scaleIn("Market value") // null
 */
export function scaleIn(text: string): Scale | null {
	return WORDS.find(([, words]) => words.test(text))?.[0] ?? null;
}

/** The currency that a header names, by its sign or code; none where it names none, or several could be meant. */
export function currencyIn(header: string, known: Rated): string | null {
	// `kEUR` and `T€` say both; a word of three letters in a name (`ALL`, `TOP`) is only a code where it is one of ours.
	const { codes } = takeCurrency(header.replace(new RegExp(`(?<![\\p{L}])[kmt](?=${CODE}\\b)`, "giu"), "$& "), () => false);
	const [only] = codes;
	return codes.length === 1 && only && known.has(only) ? only : null;
}
