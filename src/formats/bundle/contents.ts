import { createHash } from "node:crypto";
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import { MOST_FILE } from "@/core/words/fileWords";
import type { RawFiles } from "./model";

/** The folder within a bundle that holds what files hold, each under the sum of its bytes (SHA-256, hexadecimal). */
export const CONTENTS = "files/";
const SUM = /^[0-9a-f]{64}$/;

/** What the files of a bundle hold, read one at a time. */
export interface Contents {
	readonly sums: ReadonlySet<string>;
	readonly read: (sum: string) => Promise<Uint8Array>;
}

/** A zip’s or folder’s entry as a content’s name; null for any other. */
export function contentName(path: string): string | null {
	const [name = "", folder = ""] = path.split("/").reverse();
	return folder === "files" && SUM.test(name) ? `${CONTENTS}${name}` : null;
}

/** The tables of a bundle, and apart from them what its files hold. */
export function withoutContents(raw: RawFiles): { readonly tables: RawFiles; readonly contents: Contents } {
	const isContent = (name: string) => name.startsWith(CONTENTS);
	const held = new Map([...raw].filter(([name]) => isContent(name)).map(([name, bytes]) => [name.slice(CONTENTS.length), bytes]));
	return {
		tables: new Map([...raw].filter(([name]) => !isContent(name))),
		contents: { sums: new Set(held.keys()), read: async (sum) => held.get(sum) ?? new Uint8Array() },
	};
}

/** What the files of a bundle hold that lies in a folder. */
export async function folderContents(path: string): Promise<Contents> {
	const folder = join(path, CONTENTS);
	const names = await readdir(folder).catch(() => []);
	return { sums: new Set(names.filter((name) => SUM.test(name))), read: (sum) => readFile(join(folder, sum)) };
}

/** Whether a content is what its name says, and no larger than a file may be. */
export async function isWhole(contents: Contents, sum: string): Promise<boolean> {
	const bytes = await contents.read(sum);
	return bytes.length > 0 && bytes.length <= MOST_FILE && createHash("sha256").update(bytes).digest("hex") === sum;
}
