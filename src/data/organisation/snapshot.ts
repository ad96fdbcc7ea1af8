import { promisify } from "node:util";
import { deserialize, serialize } from "node:v8";
import { gunzip, gzip } from "node:zlib";
import { asc, sql } from "drizzle-orm";
import { companyOf } from "@/core/company";
import { HISTORY_COLUMNS } from "@/core/history/columns";
import type { Db, Sql } from "../db";
import { snapshots } from "../schema";
import { adopt, type DealInputs, dealInputs, type KeptDeals } from "./inputs";
import type { ReferenceData } from "./readReferenceData";
import type { OrganisationState } from "./state";

/** Raised whenever what is kept of a deal beside its versions takes another shape. */
export const SHAPE = 8;
/** Snapshots of another form are not read: it names the columns of versions too, so that a new one needs no thought. */
export const FORM = `${SHAPE} ${HISTORY_COLUMNS.join(" ")}`;
/** below so many deals reading the rows is quick */
const WORTH = 2000;
/** a snapshot that is so many writes behind is made anew */
const BEHIND = 1000;
const PART = 4 * 2 ** 20;
/** the fastest: it is read on the same network */
const LEVEL = 1;

/** What a snapshot holds: all that is read of deals, and what they were read by. */
interface Kept extends KeptDeals {
	readonly inputs: DealInputs;
}

/** The organisation as it was saved last, under the rules as they are now; null where there is no snapshot, or none that still holds. */
export async function restoreSnapshot(db: Sql, { rules, reference }: ReferenceData): Promise<OrganisationState | null> {
	const parts = await db.select().from(snapshots).orderBy(asc(snapshots.part));
	const [first] = parts;
	if (!first || first.form !== FORM) return null;
	const bytes = await promisify(gunzip)(Buffer.concat(parts.map((part) => part.bytes)));
	const { inputs, ...kept } = deserialize(bytes) as Kept;
	const adopted = adopt(kept, inputs, dealInputs({ rules, reference }));
	if (!adopted) return null;
	const { deals, facts, history } = adopted;
	return {
		...reference,
		revision: first.revision,
		deals,
		// A deal that is gone has left its place empty.
		dealIndex: new Map(deals.flatMap((deal, i) => (deal.id ? [[deal.id, i] as const] : []))),
		company: companyOf({ rules, deals: facts, people: reference.people, history }),
	};
}

/** Saves an organisation beside its revision, unless a snapshot is there that is about as new. One process at a time does. */
export async function saveSnapshot(db: Db, organisation: OrganisationState): Promise<boolean> {
	const { company } = organisation;
	const kept: Kept = {
		inputs: dealInputs({ rules: company.rules, reference: organisation }),
		deals: organisation.deals,
		facts: company.deals,
		history: company.history,
	};
	return db.transaction(async (tx) => {
		const { rows } = await tx.execute(
			sql`select pg_try_advisory_xact_lock(hashtext('porch lamp snapshot')) as mine, (select revision from snapshots where part = 0 and form = ${FORM}) as revision`,
		);
		const [{ mine, revision } = { mine: false, revision: null }] = rows as { mine: boolean; revision: string | null }[];
		if (!mine || (revision !== null && Number(revision) >= organisation.revision)) return false;
		const bytes = await promisify(gzip)(serialize(kept), { level: LEVEL });
		await tx.delete(snapshots);
		for (let part = 0; part * PART < bytes.length; part++) {
			await tx.insert(snapshots).values({ part, form: FORM, revision: organisation.revision, bytes: bytes.subarray(part * PART, (part + 1) * PART) });
		}
		return true;
	});
}

/** Whether saving an organisation saves the next start much: it is large, and the snapshot it came from is far behind, if there was one. */
export const worthSaving = (organisation: OrganisationState, from: OrganisationState | null): boolean =>
	organisation.deals.length >= WORTH && (from === null || organisation.revision - from.revision > BEHIND);
