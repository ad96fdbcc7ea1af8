import { createHash } from "node:crypto";
import { constants, deflateRawSync } from "node:zlib";
import { derived } from "@/core/derive";

/** A part of a long text; the same object as long as nothing in it changes. */
export interface Chunk {
	readonly text: string;
}

/** Makes a part of a text. */
export const chunk = (text: string): Chunk => ({ text });

/** The whole text of its parts. */
export const textOf = (chunks: readonly Chunk[]): string => chunks.map(({ text }) => text).join("");

/** Fast rather than small: what is sent is kept, and most of it is read on the same network. */
const LEVEL = 3;

/** A part compressed by itself and ended at a whole byte, so that parts that follow one another are one stream (RFC 1951). */
const deflated = derived("deflated", ({ text }: Chunk): Buffer => deflateRawSync(text, { level: LEVEL, finishFlush: constants.Z_SYNC_FLUSH }));

/** An empty last block, which ends a stream. */
const END = Buffer.from([0x03, 0x00]);

/** Parts of a text as one compressed stream without a frame (RFC 1951, `deflate-raw`): of parts that are known nothing is compressed again. */
export const deflatedStream = (chunks: readonly Chunk[]): Buffer => Buffer.concat([...chunks.map((one) => deflated(one)), END]);

/** A part by its content: 54 bits of its digest, which no two of the few hundred parts of a text share. */
const nameOf = derived("named", ({ text }: Chunk): string => createHash("sha256").update(text).digest("base64url").slice(0, 9));

const NEXT_LINE = chunk("\n");

/**
 * Parts of a text for somebody who has some of them, by their names: a line that names all parts in their order, and a
 * line for each that they haven't got. Parts hold no line ends; each is sent once.
 */
export function missingParts(chunks: readonly Chunk[], known: ReadonlySet<string>): Chunk[] {
	const sent = new Set(known);
	const lines = [chunk(JSON.stringify(chunks.map((one) => nameOf(one))))];
	for (const one of chunks) {
		if (sent.has(nameOf(one))) continue;
		sent.add(nameOf(one));
		lines.push(NEXT_LINE, one);
	}
	return lines;
}
