import { createWriteStream } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream } from "node:stream/web";
import { Fault } from "@/platform/fault";

/** The largest file of messages that is read, in bytes. */
export const MOST_INTAKE = 256 * 2 ** 20;

/** A body that has been put aside. */
export interface Spooled {
	readonly path: string;
	readonly size: number;
	readonly forget: () => Promise<void>;
}

/**
 * Puts a body aside as a file for its reader alone, a piece at a time.
 *
 * @throws Fault 413 for one that is too large, 422 for an empty one; what was written is gone then, as where it is broken off
 */
export async function spool(request: Request): Promise<Spooled> {
	const folder = await mkdtemp(join(tmpdir(), "porch-lamp-intake-"));
	const path = join(folder, "file");
	const forget = () => rm(folder, { recursive: true, force: true });
	const tooLarge = new Fault(413, "Too large", `A file of messages has at most ${MOST_INTAKE / 2 ** 20} MB. Split it, by year for instance.`);
	let size = 0;
	const counted = new Transform({
		transform(chunk, _, done) {
			size += chunk.length;
			done(size > MOST_INTAKE ? tooLarge : null, chunk);
		},
	});
	try {
		if (Number(request.headers.get("content-length") ?? 0) > MOST_INTAKE) throw tooLarge;
		if (request.body) await pipeline(Readable.fromWeb(request.body as ReadableStream), counted, createWriteStream(path, { mode: 0o600, flags: "wx" }));
		if (!size) throw new Fault(422, "Empty", "This file is empty.");
		return { path, size, forget };
	} catch (error) {
		await forget();
		throw error;
	}
}
