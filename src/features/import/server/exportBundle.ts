import { z } from "zod";
import { connection } from "@/data/db";
import { readStored } from "@/data/store/readBundle";
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

/** The files, read in one snapshot of the database. */
export async function storedBundle(): Promise<RawFiles> {
	const stored = await connection().db.transaction((tx) => readStored(tx), { isolationLevel: "repeatable read", accessMode: "read only" });
	return writeBundle(stored.rows, stored.settings, stored.baseCurrency);
}
