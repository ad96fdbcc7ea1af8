import { createHash } from "node:crypto";
import { and, eq, gte, sql } from "drizzle-orm";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { outsideParts, outsideState } from "@/data/schema";
import { clock } from "@/platform/clock";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { systemWrite } from "@/platform/write";
import { TABLES } from "./list";

type Part = typeof outsideParts.$inferInsert;
const MANY = 50;

/**
 * Writes what the views of other programs show, where something was written since or another day began: of each table the parts that
 * differ, all at once, so that who reads sees one moment. Gives the tables that were written.
 */
export async function keepTables(): Promise<string[]> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const now = clock(organisation);
	const day = formatDay(now.day);
	const [before] = await db.select().from(outsideState);
	if (before?.revision === organisation.revision && before.day === day) return [];
	const known = await db.select({ table: outsideParts.table, part: outsideParts.part, digest: outsideParts.digest }).from(outsideParts);
	const digests = new Map(known.map(({ table, part, digest }) => [`${table} ${part}`, digest]));
	const changed: Part[] = [];
	const counts = new Map<string, number>();
	for (const { name, columns, parts } of TABLES) {
		let part = 0;
		for await (const rows of parts({ organisation, now, scope: null, day: now.day })) {
			const digest = createHash("sha256")
				.update(JSON.stringify([columns.map((column) => column.name), rows]))
				.digest("base64");
			if (digests.get(`${name} ${part}`) !== digest) changed.push({ table: name, part, digest, rows });
			part++;
			// Others have their turn between two parts.
			await new Promise((resolve) => setImmediate(resolve));
		}
		counts.set(name, part);
	}
	return systemWrite(async (tx) => {
		for (let at = 0; at < changed.length; at += MANY)
			await tx
				.insert(outsideParts)
				.values(changed.slice(at, at + MANY))
				.onConflictDoUpdate({ target: [outsideParts.table, outsideParts.part], set: { digest: sql`excluded.digest`, rows: sql`excluded.rows` } });
		for (const [table, count] of counts) await tx.delete(outsideParts).where(and(eq(outsideParts.table, table), gte(outsideParts.part, count)));
		const state = { day, at: new Date(now.instant), revision: organisation.revision };
		await tx.insert(outsideState).values(state).onConflictDoUpdate({ target: outsideState.id, set: state });
		return { result: [...new Set(changed.map(({ table }) => table))], touched: "nothing", audit: [] };
	});
}

/** When the views were last written, ISO; null where they haven’t been. */
export const readKept = query("tables.kept", "readTables", async (_: Context): Promise<string | null> => {
	const [row] = await connection().db.select({ at: outsideState.at }).from(outsideState);
	return row?.at.toISOString() ?? null;
});
