import { sql } from "drizzle-orm";
import type { Tx } from "../db";
import { revision, type TailPart, tail } from "../schema";

/**
 * Says within a transaction what it changed: some deals, the marks or the settings alone, or (null)
 * anything. Settings are all but what belongs to deals, people's and accounts' own rows included. Takes the lock of
 * the revision row until the commit, so call it last.
 */
export async function touch(tx: Tx, what: readonly string[] | TailPart | null): Promise<void> {
	const [row] = await tx
		.insert(revision)
		.values({ id: 1, number: 1 })
		.onConflictDoUpdate({ target: revision.id, set: { number: sql`${revision.number} + 1` } })
		.returning({ number: revision.number });
	const number = row?.number ?? 1;
	const changed = Array.isArray(what) ? [...new Set<string>(what)].map((dealId) => ({ dealId })) : [{ part: what as TailPart | null }];
	if (changed.length) await tx.insert(tail).values(changed.map((one) => ({ ...one, revision: number })));
}
