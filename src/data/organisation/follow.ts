import { isDeepStrictEqual } from "node:util";
import { gt, sql } from "drizzle-orm";
import { type History, type VersionRow, withVersions } from "@/core/history/columns";
import type { Db, Sql } from "../db";
import { tail } from "../schema";
import { buildDeals, type DealRows, groundOf, loadMemory, readDealRows, readFrame, readMarks } from "./load";
import type { Memory } from "./state";

const shared = globalThis as { porchLampMemory?: { memory: Memory | null; loading: Promise<Memory> | null } };

async function currentRevision(db: Db): Promise<number> {
	const result = await db.execute(sql`select number from revision`);
	return Number(result.rows[0]?.number ?? 0);
}

/**
 * The organisation as of the last committed write of any process: one cheap read of the revision a call,
 * and only what changed since is read again.
 */
export async function currentMemory(db: Db): Promise<Memory> {
	shared.porchLampMemory ??= { memory: null, loading: null };
	const kept = shared.porchLampMemory;
	const revision = await currentRevision(db);
	if (kept.memory && kept.memory.revision >= revision) return kept.memory;
	if (kept.loading) {
		const loaded = await kept.loading;
		if (loaded.revision >= revision) return loaded;
	}
	const loading = advance(db, kept.memory, revision);
	kept.loading = loading;
	try {
		const memory = await loading;
		if (!kept.memory || memory.revision >= kept.memory.revision) kept.memory = memory;
		return memory;
	} finally {
		if (kept.loading === loading) kept.loading = null;
	}
}

async function advance(db: Db, memory: Memory | null, revision: number): Promise<Memory> {
	// The revision is read before the rows, so that what commits in between is read again, never missed.
	return db.transaction(
		async (tx) => {
			if (!memory) return loadMemory(tx, revision);
			const changes = await tx.select({ dealId: tail.dealId, part: tail.part }).from(tail).where(gt(tail.revision, memory.revision));
			const ids = new Set(changes.filter((change) => change.part === null).map((change) => change.dealId));
			const known = [...ids].every((id) => id !== null && memory.dealIndex.has(id));
			if (!known) return loadMemory(tx, revision);
			const parts = new Set(changes.map((change) => change.part));
			const framed = parts.has("settings") ? await reframed(tx, memory) : memory;
			const patched = framed && (ids.size ? patch(framed, await readDealRows(tx, [...ids] as string[]), revision) : { ...framed, revision });
			if (!patched) return loadMemory(tx, revision);
			return parts.has("marks") ? { ...patched, marks: await readMarks(tx, memory.company.rules.zone) } : patched;
		},
		{ isolationLevel: "repeatable read", accessMode: "read only" },
	);
}

/**
 * The same deals under the rules and names as they are now; null where the deals have to be read anew. The history
 * is another object with the same columns, so that nothing that was measured on it by the old rules is kept.
 */
async function reframed(db: Sql, memory: Memory): Promise<Memory | null> {
	const fresh = await readFrame(db);
	const { rules, frame } = fresh;
	if (!isDeepStrictEqual(groundOf(fresh), groundOf({ rules: memory.company.rules, frame: memory }))) return null;
	return { ...memory, ...frame, company: { ...memory.company, rules, people: frame.people, history: { ...memory.company.history } } };
}

/** Takes in deals that changed: what is known of them, and their versions among the columns. Null when a currency is new. */
function patch(memory: Memory, rows: DealRows, revision: number): Memory | null {
	const { company } = memory;
	const known = new Set(company.rules.currencies);
	if (rows.versions.some((row) => row.currency !== null && !known.has(String(row.currency)))) return null;
	const built = buildDeals(rows, company.rules, memory);
	const deals = [...memory.deals];
	const facts = [...company.deals];
	const places = built.names.map((deal) => memory.dealIndex.get(deal.id) as number);
	built.names.forEach((deal, i) => {
		const at = places[i] as number;
		deals[at] = deal;
		facts[at] = built.facts[i] as (typeof facts)[number];
	});
	const versions = built.versions.map((version) => ({ ...version, deal: places[version.deal] as number }));
	const history = newVersions(company.history, versions)
		? withVersions(company.history, deals.length, new Set(places), versions, company.rules.zone)
		: company.history;
	return { ...memory, revision, deals, company: { ...company, deals: facts, history } };
}

/** Whether a deal has versions that the columns don't hold; where it hasn't, they are kept with all that was measured on them. */
function newVersions({ offsets, id }: History, versions: readonly VersionRow[]): boolean {
	const counts = new Map<number, number>();
	for (const { deal } of versions) counts.set(deal, (counts.get(deal) ?? 0) + 1);
	const held = (deal: number) => id.subarray(offsets[deal], offsets[deal + 1]);
	return [...counts].some(([deal, count]) => count !== held(deal).length) || versions.some((version) => !held(version.deal).includes(version.id));
}
