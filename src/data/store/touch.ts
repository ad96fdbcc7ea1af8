import { lt, sql } from "drizzle-orm";
import type { Db, Tx } from "../db";
import { revision, type TailPart, tail } from "../schema";

/**
 * What a transaction changed: some deals by id, the marks or the settings alone, everything (another process reads all
 * anew), or nothing that is kept in memory. Settings are all but what belongs to deals, people's and accounts' own rows
 * included.
 */
export type Touched = readonly string[] | TailPart | "everything" | "nothing";

/** Says within a transaction what it changed. Takes the lock of the revision row until the commit, so it comes last. */
export async function touch(tx: Tx, what: Touched): Promise<void> {
	if (what === "nothing") return;
	const [row] = await tx
		.insert(revision)
		.values({ id: 1, number: 1 })
		.onConflictDoUpdate({ target: revision.id, set: { number: sql`${revision.number} + 1` } })
		.returning({ number: revision.number });
	const number = row?.number ?? 1;
	const changed = typeof what === "string" ? [{ part: what === "everything" ? null : what }] : [...new Set(what)].map((dealId) => ({ dealId }));
	if (changed.length) await tx.insert(tail).values(changed.map((one) => ({ ...one, revision: number })));
}

/** So many revisions can be followed; who is further behind reads everything anew. */
export const TAIL_KEPT = 10_000;

/** Takes away what nobody can follow any more. Answers how many rows went. */
export async function pruneTail(db: Db): Promise<number> {
	const gone = await db.delete(tail).where(lt(tail.revision, sql`(select coalesce(max(number), 0) from revision) - ${TAIL_KEPT}::bigint`));
	return gone.rowCount ?? 0;
}
