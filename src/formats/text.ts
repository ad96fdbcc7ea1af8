export const ENCODINGS = ["UTF-8", "UTF-16", "Windows-1252"] as const;
export type Encoding = (typeof ENCODINGS)[number];

/** Bytes that are no text in any of the encodings. */
export class NotText extends Error {}

/**
 * Text by looking at its bytes: UTF-16 by its mark or by where its zero bytes stand, UTF-8 where it is sound, and
 * Windows-1252 otherwise, as spreadsheets of western Europe write it.
 *
 * @throws NotText for binary data
 * @example readText(new Uint8Array([0x4d, 0xfc])) // { "text": "Mü", "encoding": "Windows-1252" }
 */
export function readText(bytes: Uint8Array): { text: string; encoding: Encoding } {
	const wide = utf16Of(bytes);
	if (wide) return { text: plain(new TextDecoder(wide, { fatal: true }), bytes), encoding: "UTF-16" };
	try {
		return { text: plain(new TextDecoder("utf-8", { fatal: true }), bytes), encoding: "UTF-8" };
	} catch (error) {
		if (error instanceof NotText) throw error;
		return { text: plain(new TextDecoder("windows-1252"), bytes), encoding: "Windows-1252" };
	}
}

function plain(decoder: TextDecoder, bytes: Uint8Array): string {
	let text: string;
	try {
		text = decoder.decode(bytes);
	} catch (error) {
		if (decoder.encoding === "utf-8") throw error;
		throw new NotText("the file isn't text");
	}
	// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what tells binary data
	if (/[\u0000-\u0008\u000e-\u001a\u001c-\u001f]/.test(text)) throw new NotText("the file holds binary data, not text");
	return text;
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
