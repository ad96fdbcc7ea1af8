import { lt, sql } from "drizzle-orm";
import type { Db, Tx } from "../db";
import { type ChangePart, changeLog, revision } from "../schema";

/**
 * What a transaction changed: some deals by id (changed, new or gone), the marks or the settings, both, everything
 * (another process reads all anew), or nothing that is kept in memory. Settings are all but what belongs to deals,
 * people's and accounts' own rows and the list of currencies included.
 */
export type ChangeSet =
	| readonly string[]
	| ChangePart
	| { readonly deals: readonly string[]; readonly parts: readonly ChangePart[] }
	| "everything"
	| "nothing";

/** Reading so many deals one by one is no quicker than reading everything. */
const WORTH_FOLLOWING = 20_000;

/** Says within a transaction what it changed. Takes the lock of the revision row until the commit, so it comes last. */
export async function recordChange(tx: Tx, what: ChangeSet): Promise<void> {
	if (what === "nothing") return;
	const [row] = await tx
		.insert(revision)
		.values({ id: 1, number: 1 })
		.onConflictDoUpdate({ target: revision.id, set: { number: sql`${revision.number} + 1` } })
		.returning({ number: revision.number });
	const number = row?.number ?? 1;
	const changed = entries(what);
	for (let at = 0; at < changed.length; at += CHUNK)
		await tx.insert(changeLog).values(changed.slice(at, at + CHUNK).map((one) => ({ ...one, revision: number })));
}

const CHUNK = 5000;

/** What the log says of a change; a line without deal and part means everything. */
function entries(what: Exclude<ChangeSet, "nothing">): { dealId?: string; part?: ChangePart }[] {
	if (what === "everything") return [{}];
	if (typeof what === "string") return [{ part: what }];
	const { deals, parts } = "deals" in what ? what : { deals: what, parts: [] };
	const ids = new Set(deals);
	return ids.size > WORTH_FOLLOWING ? [{}] : [...parts.map((part) => ({ part })), ...[...ids].map((dealId) => ({ dealId }))];
}

/** So many revisions can be followed; who is further behind reads everything anew. */
export const CHANGES_KEPT = 10_000;

/** Takes away what nobody can follow any more. Answers how many rows went. */
export async function pruneChangeLog(db: Db): Promise<number> {
	const gone = await db.delete(changeLog).where(lt(changeLog.revision, sql`(select coalesce(max(number), 0) from revision) - ${CHANGES_KEPT}::bigint`));
	return gone.rowCount ?? 0;
}
