/** The one language of the program’s own words, as a tag of BCP 47: numbers of things, lists and months are worded by its rules. */
export const LOCALE = "en-GB";

const RULES = new Intl.PluralRules(LOCALE);
const LISTS = {
	and: new Intl.ListFormat(LOCALE, { type: "conjunction" }),
	or: new Intl.ListFormat(LOCALE, { type: "disjunction" }),
} as const;

/**
 * Of two wordings the one that goes with a number of things.
 *
 * @example byCount(1, "is", "are") // "is"
 * @example byCount(0, "is", "are") // "are"
 */
export const byCount = (n: number, one: string, many: string): string => (RULES.select(n) === "one" ? one : many);

/**
 * `1 push`, `3 pushes`: the count and the noun, with its own plural where it isn’t a plain s.
 *
 * @example plural(3, "push", "pushes") // "3 pushes"
 */
export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${byCount(n, one, many)}`;

/**
 * Things one after the other, the last by *and* or *or*.
 *
 * @example listed(["Ines", "Ruth", "Piotr"]) // "Ines, Ruth and Piotr"
 * @example listed(["EUR", "USD"], "or") // "EUR or USD"
 */
export const listed = (things: Iterable<string>, by: keyof typeof LISTS = "and"): string => LISTS[by].format(things);

/**
 * At most so many of a list, and how many more there are.
 *
 * @example someOf(["a", "b", "c"], 2) // "a, b and 1 more"
 * @example someOf(["a", "b"], 2) // "a, b"
 */
export function someOf(things: readonly string[], most: number): string {
	const shown = things.slice(0, most).join(", ");
	return things.length > most ? `${shown} and ${things.length - most} more` : shown;
}

/**
 * A noun with *a* or *an* before it, by its first letter.
 *
 * @example [withArticle("email"), withArticle("visit")] // ["an email", "a visit"]
 */
export const withArticle = (noun: string): string => `${/^[aeiou]/i.test(noun) ? "an" : "a"} ${noun}`;

/**
 * A label and what is said of it, joined by a colon unless the label ends a sentence by itself.
 *
 * @example labelled("Money", "assumed") // "Money: assumed"
 * @example labelled("Who signs?", "assumed") // "Who signs? Assumed"
 */
export const labelled = (label: string, words: string): string =>
	/[?!.…]$/.test(label) ? `${label} ${words.charAt(0).toUpperCase()}${words.slice(1)}` : `${label}: ${words}`;

const names = (n: number, options: Intl.DateTimeFormatOptions, day: (i: number) => number, locale = LOCALE): readonly string[] => {
	const format = new Intl.DateTimeFormat(locale, { ...options, timeZone: "UTC" });
	return Array.from({ length: n }, (_, i) => format.format(day(i)));
};
/** `Jan` to `Dec`: in three letters everywhere, which British English has not for September. */
export const MONTHS = names(12, { month: "short" }, (i) => Date.UTC(2026, i, 1), "en");
/** `Sun` to `Sat`. */
export const WEEKDAYS = names(7, { weekday: "short" }, (i) => Date.UTC(2026, 0, 4 + i));

/**
 * A sentence with its full stop, unless what somebody wrote ends it already.
 *
 * @example [sentence("Call them"), sentence("What hurts?")] // ["Call them.", "What hurts?"]
 */
export const sentence = (words: string): string => (/[.?!…]$/u.test(words) ? words : `${words}.`);
