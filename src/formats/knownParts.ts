/** The header in which a browser names the parts of a long text that it has from before. */
export const KNOWN_PARTS = "x-known-parts";

/** A header holds no more names than this. */
const MOST = 1000;

/** Parts of a text by their names. */
export type Parts = ReadonlyMap<string, string>;

/** A text put together from what was answered and the parts that were there, which are named after this by the text’s own. */
export interface Joined {
	readonly text: string;
	readonly parts: Parts;
}

/** As many of the parts that are there as can be named. */
export const nameable = (parts: Parts): Parts => new Map([...parts].slice(0, MOST));

/** The names of parts as the header holds them. */
export const namesOf = (parts: Parts): string => [...parts.keys()].join(" ");

/**
 * Puts a text together: the first line of the answer names its parts in their order, the others are those that weren't named.
 *
 * @example joinParts('["a","b"]\n{1', new Map([["b", "}"]])).text // "{1}"
 */
export function joinParts(answer: string, known: Parts): Joined {
	const [first = "[]", ...lines] = answer.split("\n");
	const parts = new Map<string, string>();
	const names = JSON.parse(first) as string[];
	for (const name of names) if (!parts.has(name)) parts.set(name, known.get(name) ?? lines.shift() ?? "");
	return { text: names.map((name) => parts.get(name)).join(""), parts };
}
