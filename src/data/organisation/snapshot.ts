import { createHash } from "node:crypto";
import { setImmediate } from "node:timers/promises";
import { promisify } from "node:util";
import { deserialize, serialize } from "node:v8";
import { deflateRaw, inflateRaw } from "node:zlib";
import { asc, eq, gt, sql } from "drizzle-orm";
import { companyOf } from "@/core/company";
import { blockSpans, HISTORY_COLUMNS } from "@/core/history/columns";
import type { Db, Sql, Tx } from "../db";
import { snapshots } from "../schema";
import { adopt, type DealInputs, dealInputs } from "./inputs";
import { type PackedBlock, packBlock, unpackBlock } from "./packedBlock";
import type { ReferenceData } from "./readReferenceData";
import type { OrganisationState } from "./state";

const [squeeze, unsqueeze] = [promisify(deflateRaw), promisify(inflateRaw)];
/** How hard to compress: what is read at a start had better be quick than small. */
const LEVEL = 1;

/** Raised whenever what is kept of a deal beside its versions takes another shape. */
export const SHAPE = 14;
/** Snapshots of another form are not read: it names the columns of versions too, so that a new one needs no thought. */
export const FORM = `${SHAPE} ${HISTORY_COLUMNS.join(" ")}`;
/** below so many deals reading the rows is quick */
const WORTH = 5000;
/** a start that has to follow more revisions than this saves a new snapshot */
const BEHIND = 1000;
/** The row that speaks of all blocks; block i is row i. */
const HEAD = -1;

/** The organisation as it was saved last, under the rules as they are now; null where there is no snapshot, or none that still holds. */
export async function restoreSnapshot(db: Sql, { rules, reference }: ReferenceData): Promise<OrganisationState | null> {
	const rows = await db.select().from(snapshots).orderBy(asc(snapshots.block));
	const [head, ...saved] = rows;
	if (head?.block !== HEAD || head.form !== FORM) return null;
	const blocks = await inTurn(saved, async ({ bytes }) => unpackBlock(deserialize(await unsqueeze(bytes)) as PackedBlock));
	const kept = {
		deals: blocks.flatMap(({ deals }) => deals),
		facts: blocks.flatMap(({ facts }) => facts),
		history: { deals: blocks.reduce((sum, { deals }) => sum + deals.length, 0), blocks: blocks.map(({ versions }) => versions) },
	};
	const adopted = adopt(kept, deserialize(head.bytes) as DealInputs, dealInputs({ rules, reference }));
	if (!adopted) return null;
	const { deals, facts, history } = adopted;
	return {
		...reference,
		revision: head.revision,
		deals,
		// A deal that is gone has left its place empty.
		dealIndex: new Map(deals.flatMap((deal, i) => (deal.id ? [[deal.id, i] as const] : []))),
		company: companyOf({ rules, deals: facts, people: reference.people, history }),
	};
}

/** Saves an organisation beside its revision, unless a snapshot is there that is about as new. One process at a time does; blocks that differ from what was saved last are written. */
export async function saveSnapshot(db: Db, organisation: OrganisationState): Promise<boolean> {
	return db.transaction(async (tx) => {
		const { rows } = await tx.execute(
			sql`select pg_try_advisory_xact_lock(hashtext('porch lamp snapshot')) as mine, (select revision from snapshots where block = ${HEAD} and form = ${FORM}) as revision`,
		);
		const [{ mine, revision } = { mine: false, revision: null }] = rows as { mine: boolean; revision: string | null }[];
		if (!mine || (revision !== null && Number(revision) >= organisation.revision)) return false;
		if (revision === null) await tx.delete(snapshots);
		await saveBlocks(tx, organisation);
		const { company } = organisation;
		const head = serialize(dealInputs({ rules: company.rules, reference: organisation }));
		await tx.delete(snapshots).where(eq(snapshots.block, HEAD));
		await tx.insert(snapshots).values({ block: HEAD, form: FORM, revision: organisation.revision, digest: "", bytes: head });
		return true;
	});
}

/** A few at a time: two can be worked on at once, and what is done with need not be kept until all are. */
async function inTurn<T, R>(list: readonly T[], work: (one: T) => Promise<R>): Promise<R[]> {
	const done: R[] = new Array(list.length);
	let next = 0;
	const worker = async () => {
		for (let i = next++; i < list.length; i = next++) done[i] = await work(list[i] as T);
	};
	await Promise.all([worker(), worker(), worker()]);
	return done;
}

async function saveBlocks(tx: Tx, { company, deals, revision }: OrganisationState): Promise<void> {
	const saved = await tx.select({ block: snapshots.block, digest: snapshots.digest }).from(snapshots);
	const digests = new Map(saved.map(({ block, digest }) => [block, digest]));
	let block = 0;
	for (const [first, end] of blockSpans(deals.length)) {
		const own = company.blocks[block];
		if (!own) break;
		const bytes = serialize(packBlock(own, deals.slice(first, end)));
		const digest = createHash("sha256").update(bytes).digest("base64");
		if (digests.get(block) !== digest) {
			const row = { form: FORM, revision, digest, bytes: await squeeze(bytes, { level: LEVEL }) };
			await tx
				.insert(snapshots)
				.values({ block, ...row })
				.onConflictDoUpdate({ target: snapshots.block, set: row });
		}
		block++;
		// What is asked for in the meantime waits for no more than one block.
		await setImmediate();
	}
	await tx.delete(snapshots).where(gt(snapshots.block, block - 1));
}

/** Whether saving an organisation saves the next start much: it is large, and the snapshot it came from is far behind, if there was one. */
export const worthSaving = (organisation: OrganisationState, from: OrganisationState | null): boolean =>
	organisation.deals.length >= WORTH && (from === null || organisation.revision - from.revision > BEHIND);
