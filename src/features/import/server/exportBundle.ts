import { connection } from "@/data/db";
import { readStored } from "@/data/store/readBundle";
import type { RawFiles } from "@/formats/bundle/model";
import { writeBundle } from "@/formats/bundle/write";
import { type Context, record } from "@/platform/context";
import { demand } from "@/platform/rights";

/** The whole organisation as a bundle: what was imported, and what was done since. */
export async function exportBundle(context: Context): Promise<RawFiles> {
	demand(context.actor, "exportBundle");
	await record(connection().db, context, "bundle exported", null);
	return storedBundle();
}

/** The files, read in one snapshot of the database. */
export async function storedBundle(): Promise<RawFiles> {
	const stored = await connection().db.transaction((tx) => readStored(tx), { isolationLevel: "repeatable read", accessMode: "read only" });
	return writeBundle(stored.rows, stored.settings, stored.baseCurrency);
}
