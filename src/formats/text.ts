import iconv from "iconv-lite";

export const ENCODINGS = ["UTF-8", "UTF-16", "Windows-1252", "CP850", "Mac Roman"] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** Those of a byte a letter, which any bytes can be read in; with the names by which the package knows them. */
const SINGLE = { "Windows-1252": "windows-1252", CP850: "cp850", "Mac Roman": "macroman" } as const;
export type SingleByte = keyof typeof SINGLE;
export const SINGLE_BYTE = Object.keys(SINGLE) as SingleByte[];

/** Bytes that are no text in any of the encodings. */
export class NotText extends Error {}

/** What is known of a text before it is read. */
export interface TextHints {
	/** an encoding that somebody chose, among those of a byte a letter */
	readonly encoding?: SingleByte | null;
	/** names that may stand in it: of several encodings the one that spells them is meant */
	readonly names?: readonly string[];
}

export interface ReadText {
	readonly text: string;
	readonly encoding: Encoding;
	/** encodings it may be in just as well, each with a line that shows the difference; none where it is sure */
	readonly open: readonly { readonly encoding: SingleByte; readonly sample: string }[];
}

/**
 * Text by looking at its bytes: UTF-16 by its mark or by where its zero bytes stand, UTF-8 where it is sound, and otherwise
 * the one of Windows-1252, CP850 and Mac Roman that makes known names of it, or words.
 *
 * @throws NotText for binary data
 * @example readText(new Uint8Array([0x4d, 0xfc])).text // "Mü"
 */
export function readText(bytes: Uint8Array, { encoding, names = [] }: TextHints = {}): ReadText {
	const wide = utf16Of(bytes);
	if (wide) return { text: plain(decoded(wide, bytes)), encoding: "UTF-16", open: [] };
	try {
		return { text: plain(new TextDecoder("utf-8", { fatal: true }).decode(bytes)), encoding: "UTF-8", open: [] };
	} catch (error) {
		if (error instanceof NotText) throw error;
	}
	const guess = guessSingle(bytes, names);
	const chosen = encoding ?? guess.encoding;
	return { text: plain(iconv.decode(Buffer.from(bytes), SINGLE[chosen])), encoding: chosen, open: encoding ? [] : guess.open };
}

function decoded(encoding: string, bytes: Uint8Array): string {
	try {
		return new TextDecoder(encoding, { fatal: true }).decode(bytes);
	} catch {
		throw new NotText("the file isn’t text");
	}
}

function plain(text: string): string {
	// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what tells binary data
	if (/[\u0000-\u0008\u000e-\u001a\u001c-\u001f]/.test(text)) throw new NotText("the file holds binary data, not text");
	return text;
}

/** so many lines with letters beyond ASCII tell the encoding */
const TELLING = 400;
const LETTERS = /[äöüßÄÖÜéèêëàâáãçîïíìôóòõöûúùñåøæœÉÈÊÀÂÁÇÎÔÓÚÑÅØÆšžŠŽ]/u;

function guessSingle(bytes: Uint8Array, names: readonly string[]): { encoding: SingleByte; open: ReadText["open"] } {
	const telling = tellingLines(bytes);
	const foreign = names.filter((name) => /[^\p{ASCII}]/u.test(name));
	const scored = SINGLE_BYTE.map((encoding) => {
		const text = iconv.decode(telling, SINGLE[encoding]);
		return { encoding, text, known: foreign.filter((name) => text.includes(name)).length, letters: lettersOf(text) };
	}).sort((a, b) => b.known - a.known || b.letters - a.letters || SINGLE_BYTE.indexOf(a.encoding) - SINGLE_BYTE.indexOf(b.encoding));
	const [best] = scored as [(typeof scored)[number], ...typeof scored];
	const alike = scored.filter(({ known, letters }) => known === best.known && letters === best.letters);
	if (new Set(alike.map(({ text }) => text)).size === 1) return { encoding: best.encoding, open: [] };
	const at = best.text.split("\n").findIndex((_, i) => new Set(alike.map(({ text }) => text.split("\n")[i])).size > 1);
	return { encoding: best.encoding, open: alike.map(({ encoding, text }) => ({ encoding, sample: (text.split("\n")[at] ?? "").trim().slice(0, 120) })) };
}

/** The lines that hold anything beyond ASCII, each with its line's end. */
function tellingLines(bytes: Uint8Array): Buffer {
	const lines: Uint8Array[] = [];
	for (let start = 0; start < bytes.length && lines.length < TELLING; ) {
		const found = bytes.indexOf(10, start);
		const end = found < 0 ? bytes.length : found + 1;
		const line = bytes.subarray(start, end);
		if (line.some((byte) => byte > 127)) lines.push(line);
		start = end;
	}
	return Buffer.concat(lines);
}

// German closes with the signs that English opens with, and Danish turns the angled ones round.
const OPENS = /[‘“„‚«»]/u;
const CLOSES = /[’”»“‘«]/u;

/** Whether a sign stands where such a sign does: quotes at their side of a word, a dash by itself, a currency's beside its figure. */
function inPlace(sign: string, before: string, after: string): boolean {
	if (sign === "’" && /\p{L}/u.test(before)) return true;
	// French leaves a space within them.
	if (/[«»]/.test(sign) && /\s/.test(sign === "«" ? after : before)) return true;
	if (OPENS.test(sign) && /[\p{L}\d]/u.test(after) && !/[\p{L}\d]/u.test(before)) return true;
	if (CLOSES.test(sign)) return /[\p{L}\d.!?]/u.test(before) && !/[\p{L}\d]/u.test(after);
	if (/[–—]/.test(sign)) return (before === " " && after === " ") || (/\d/.test(before) && /\d/.test(after));
	return /[€£]/.test(sign) && (/\d/.test(after) || /[\d\s]/.test(before));
}

/** How many letters and signs beyond ASCII look like those of words, less those that don't: signs within a word, capitals after a small letter. */
function lettersOf(text: string): number {
	let sum = 0;
	for (const found of text.matchAll(/[^\p{ASCII}]/gu)) {
		const sign = found[0];
		const [before = " ", after = " "] = [text[found.index - 1], text[found.index + sign.length]];
		const inWord = /\p{L}/u.test(before) || /\p{L}/u.test(after);
		const capital = /\p{Lu}/u.test(sign) && /\p{Ll}/u.test(after) && /\p{L}/u.test(before);
		// A letter beside a figure and no other letter is of no word.
		if (LETTERS.test(sign)) sum += capital ? -1 : inWord || !/\d/.test(before + after) ? 1 : 0;
		else if (inPlace(sign, before, after)) sum++;
		else if (inWord && !/[’‘“”–—€£]/.test(sign)) sum--;
		else if (/\p{L}/u.test(before) && /\p{Ll}/u.test(after) && sign !== "’") sum--;
	}
	return sum;
}

/** Whether bytes are UTF-16, and which end comes first: by the mark, or by every other byte of the beginning being zero. */
function utf16Of(bytes: Uint8Array): "utf-16le" | "utf-16be" | null {
	if (bytes[0] === 0xff && bytes[1] === 0xfe) return "utf-16le";
	if (bytes[0] === 0xfe && bytes[1] === 0xff) return "utf-16be";
	const head = bytes.subarray(0, 400);
	if (head.length < 8) return null;
	const zeros = [0, 0];
	head.forEach((byte, i) => {
		if (byte === 0) zeros[i % 2] = (zeros[i % 2] as number) + 1;
	});
	const [even = 0, odd = 0] = zeros;
	const half = head.length / 2;
	return odd > half * 0.7 && even < half * 0.1 ? "utf-16le" : even > half * 0.7 && odd < half * 0.1 ? "utf-16be" : null;
}
