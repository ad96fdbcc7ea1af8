import { inArray, sql } from "drizzle-orm";
import { differing } from "@/core/deal/fields";
import { type DealVersion, versionsFrom } from "@/core/weekly/versions";
import type { Tx } from "@/data/db";
import { deals, dealVersions } from "@/data/schema";
import { closeVersions } from "@/data/store/closeVersions";
import type { Context } from "@/platform/context";
import { importOf, isWeekly, statementsOf, versionsOf } from "./store";

const CHUNK = 1000;

/**
 * Works the weekly versions of some deals out anew from all files and decisions. Versions that stay as they are
 * keep their ids, so that marks see only real corrections. Gives the number of versions made and taken away.
 */
export async function rebuild(tx: Tx, context: Context, ids: readonly string[]): Promise<{ made: number; gone: number }> {
	const stored = await versionsOf(tx, ids);
	const statements = await statementsOf(tx, context, ids, null);
	const gone: number[] = [];
	const made: (typeof dealVersions.$inferInsert)[] = [];
	const empty: string[] = [];
	for (const id of ids) {
		const all = stored.get(id) ?? [];
		const said = statements.get(id) ?? [];
		const fixed = all.filter((version) => !isWeekly(version.importId));
		const wanted = versionsFrom(said, fixed);
		const fileAt = new Map(said.map((statement) => [statement.at, statement.fileId]));
		const kept = new Set<DealVersion>();
		for (const version of all) {
			if (!isWeekly(version.importId)) continue;
			const same = wanted.find((one) => one.at === version.at && !differing(one.state, version.state).length);
			if (same && importOf(fileAt.get(same.at) ?? "") === version.importId) kept.add(same);
			else gone.push(version.id);
		}
		for (const version of wanted) {
			if (kept.has(version)) continue;
			const at = new Date(version.at);
			made.push({ ...version.state, dealId: id, validFrom: at, validTo: at, byId: context.actor.person.id, importId: importOf(fileAt.get(version.at) ?? "") });
		}
		if (!wanted.length && !fixed.length) empty.push(id);
	}
	for (let i = 0; i < gone.length; i += CHUNK) await tx.delete(dealVersions).where(inArray(dealVersions.id, gone.slice(i, i + CHUNK)));
	for (let i = 0; i < made.length; i += CHUNK) await tx.insert(dealVersions).values(made.slice(i, i + CHUNK));
	await closeVersions(tx, ids);
	// A deal that only a replaced file knew of goes with it, unless something hangs on it by now.
	for (const id of empty) {
		await tx.transaction((inner) => inner.delete(deals).where(sql`${deals.id} = ${id}`)).catch(() => undefined);
	}
	return { made: made.length, gone: gone.length };
}
