import { isNotNull } from "drizzle-orm";
import { z } from "zod";
import { keptRevision } from "@/data/organisation/follow";
import { attachments } from "@/data/schema";
import { readingFrom } from "@/data/standby";
import { readContent } from "@/data/store/contents";
import { readStored } from "@/data/store/readBundle";
import { CONTENTS } from "@/formats/bundle/contents";
import type { RawFiles } from "@/formats/bundle/model";
import { writeBundle } from "@/formats/bundle/write";
import { command } from "@/platform/command";

/** The whole organisation as a bundle: what was imported, and what was done since. That it was taken out is kept. */
export const exportBundle = command({
	name: "import.export",
	right: "exportBundle",
	input: z.object({}),
	server: true,
	async run() {
		const result = await storedBundle();
		return { result, touched: "nothing", audit: { action: "bundle exported", detail: { files: result.size } } };
	},
});

/** The whole bundle, one file after another: its tables, then what its files hold. */
export async function* bundleFiles(tables: RawFiles): AsyncGenerator<readonly [name: string, bytes: Uint8Array]> {
	yield* tables;
	const db = await readingFrom(keptRevision() ?? 0);
	const named = await db.selectDistinct({ sum: attachments.sha256 }).from(attachments).where(isNotNull(attachments.sha256)).orderBy(attachments.sha256);
	for (const { sum } of named) {
		const bytes = sum ? await readContent(db, sum) : null;
		if (bytes) yield [`${CONTENTS}${sum}`, bytes];
	}
}

/** The tables, read in one snapshot of the database. */
export async function storedBundle(): Promise<RawFiles> {
	const db = await readingFrom(keptRevision() ?? 0);
	const stored = await db.transaction((tx) => readStored(tx), { isolationLevel: "repeatable read", accessMode: "read only" });
	return writeBundle(stored.rows, stored.settings, stored.baseCurrency);
}
