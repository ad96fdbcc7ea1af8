import { eq, inArray, sql } from "drizzle-orm";
import { differing } from "@/core/deal/fields";
import { type DealVersion, versionsFrom } from "@/core/weekly/versions";
import type { Sql, Tx } from "@/data/db";
import { deals, dealVersions, weeklyRows } from "@/data/schema";
import { closeVersions } from "@/data/store/closeVersions";
import type { Context } from "@/platform/context";
import { importOf, isWeekly, statementsOf, versionsOf } from "./store";

const CHUNK = 1000;

/** What working the weekly versions of some deals out anew comes to. */
interface Rebuilding {
	/** ids of versions that are no longer there */
	readonly gone: number[];
	readonly made: (typeof dealVersions.$inferInsert)[];
	/** deals of which nothing is known any more */
	readonly empty: string[];
}

/** Works out the weekly versions of some deals from all files and decisions but those of one file (null: all); nothing is written. */
async function plan(db: Sql, context: Context, ids: readonly string[], without: string | null): Promise<Rebuilding> {
	const stored = await versionsOf(db, ids);
	const statements = await statementsOf(db, context, ids, without);
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
	return { gone, made, empty };
}

/**
 * Works the weekly versions of some deals out anew from all files and decisions. Versions that stay as they are
 * keep their ids, so that marks see only real corrections. Gives the number of versions made and taken away.
 */
export async function rebuild(tx: Tx, context: Context, ids: readonly string[]): Promise<{ made: number; gone: number }> {
	const { gone, made, empty } = await plan(tx, context, ids, null);
	for (let i = 0; i < gone.length; i += CHUNK) await tx.delete(dealVersions).where(inArray(dealVersions.id, gone.slice(i, i + CHUNK)));
	for (let i = 0; i < made.length; i += CHUNK) await tx.insert(dealVersions).values(made.slice(i, i + CHUNK));
	await closeVersions(tx, ids);
	// A deal that only a replaced file knew of goes with it, unless something hangs on it by now.
	for (const id of empty) {
		await tx.transaction((inner) => inner.delete(deals).where(sql`${deals.id} = ${id}`)).catch(() => undefined);
	}
	return { made: made.length, gone: gone.length };
}

/** Deals that a file has said something of. */
export async function dealsIn(db: Sql, fileId: string): Promise<string[]> {
	const rows = await db.select({ id: weeklyRows.dealId }).from(weeklyRows).where(eq(weeklyRows.fileId, fileId));
	return rows.map((row) => row.id);
}

/** What is lost without a file: versions that go and change, and deals that only it knows. */
export async function lossWithout(db: Sql, context: Context, fileId: string, ids: readonly string[]) {
	const { gone, made, empty } = await plan(db, context, ids, fileId);
	const names = empty.length ? await db.select({ id: deals.id, name: deals.name }).from(deals).where(inArray(deals.id, empty)) : [];
	return { versions: gone.length, anew: made.length, vanishing: names };
}

/** Deals that would be gone were a file's place taken by one that has only some of them. */
export async function vanishingWithout(db: Sql, context: Context, fileId: string, still: ReadonlySet<string>): Promise<{ id: string; name: string }[]> {
	const only = (await dealsIn(db, fileId)).filter((id) => !still.has(id));
	return only.length ? (await lossWithout(db, context, fileId, only)).vanishing : [];
}
