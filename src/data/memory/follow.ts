import { gt, sql } from "drizzle-orm";
import type { Db } from "../db";
import { tail } from "../schema";
import { buildDeals, type DealRows, loadMemory, readDealRows } from "./load";
import type { Memory } from "./memory";

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
			const changes = await tx.select({ dealId: tail.dealId }).from(tail).where(gt(tail.revision, memory.revision));
			const ids = new Set(changes.map((change) => change.dealId));
			const known = [...ids].every((id) => id !== null && memory.dealIndex.has(id));
			if (!known) return loadMemory(tx, revision);
			const rows = await readDealRows(tx, [...ids] as string[]);
			return newVersions(memory, rows) ? loadMemory(tx, revision) : patch(memory, rows, revision);
		},
		{ isolationLevel: "repeatable read", accessMode: "read only" },
	);
}

/** Versions are only ever added, so a deal has new ones when it has more than the columns hold. */
function newVersions(memory: Memory, rows: DealRows): boolean {
	const counts = new Map<number, number>();
	for (const row of rows.versions) {
		const at = memory.dealIndex.get(String(row.deal_id)) as number;
		counts.set(at, (counts.get(at) ?? 0) + 1);
	}
	const { offsets } = memory.company.history;
	return [...counts].some(([deal, count]) => count !== (offsets[deal + 1] as number) - (offsets[deal] as number));
}

/** Takes in deals whose activities, answers or tasks changed; the columns stay as they are. */
function patch(memory: Memory, rows: DealRows, revision: number): Memory {
	const built = buildDeals(rows, memory.company.rules, memory);
	const deals = [...memory.deals];
	const facts = [...memory.company.deals];
	built.names.forEach((deal, i) => {
		const at = memory.dealIndex.get(deal.id) as number;
		deals[at] = deal;
		facts[at] = built.facts[i] as (typeof facts)[number];
	});
	return { ...memory, revision, deals, company: { ...memory.company, deals: facts } };
}
