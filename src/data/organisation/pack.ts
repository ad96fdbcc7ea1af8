import { promisify } from "node:util";
import { deserialize, serialize } from "node:v8";
import { gunzip, gzip } from "node:zlib";
import { asc, sql } from "drizzle-orm";
import { HISTORY_COLUMNS } from "@/core/history/columns";
import type { Db, Sql } from "../db";
import { packs } from "../schema";
import { adopt, type DealInputs, dealInputs, type KeptDeals } from "./inputs";
import type { Frame } from "./load";
import type { OrganisationState } from "./state";

/** Raised whenever what is kept of a deal beside its versions takes another shape. */
export const SHAPE = 7;
/** Packs of another form are not read: it names the columns of versions too, so that a new one needs no thought. */
export const FORM = `${SHAPE} ${HISTORY_COLUMNS.join(" ")}`;
/** below so many deals reading the rows is quick */
const WORTH = 2000;
/** a pack that is so many writes behind is made anew */
const BEHIND = 1000;
const PART = 4 * 2 ** 20;
/** the fastest: it is read on the same network */
const LEVEL = 1;

/** What a pack holds: all that is read of deals, and what they were read by. */
interface Packed extends KeptDeals {
	readonly inputs: DealInputs;
}

/** The organisation as it was packed last, under the rules as they are now; null where there is no pack, or none that still holds. */
export async function unpack(db: Sql, { rules, frame }: Frame): Promise<OrganisationState | null> {
	const parts = await db.select().from(packs).orderBy(asc(packs.part));
	const [first] = parts;
	if (!first || first.form !== FORM) return null;
	const bytes = await promisify(gunzip)(Buffer.concat(parts.map((part) => part.bytes)));
	const { inputs, ...packed } = deserialize(bytes) as Packed;
	const adopted = adopt(packed, inputs, dealInputs({ rules, frame }));
	if (!adopted) return null;
	const { deals, facts, history } = adopted;
	return {
		...frame,
		revision: first.revision,
		deals,
		dealIndex: new Map(deals.map((deal, i) => [deal.id, i])),
		company: { rules, deals: facts, people: frame.people, history },
	};
}

/** Packs an organisation beside its revision, unless a pack is there that is about as new. One process at a time does. */
export async function pack(db: Db, organisation: OrganisationState): Promise<boolean> {
	const { company } = organisation;
	const packed: Packed = {
		inputs: dealInputs({ rules: company.rules, frame: organisation }),
		deals: organisation.deals,
		facts: company.deals,
		history: company.history,
	};
	return db.transaction(async (tx) => {
		const { rows } = await tx.execute(
			sql`select pg_try_advisory_xact_lock(hashtext('porch lamp pack')) as mine, (select revision from packs where part = 0 and form = ${FORM}) as revision`,
		);
		const [{ mine, revision } = { mine: false, revision: null }] = rows as { mine: boolean; revision: string | null }[];
		if (!mine || (revision !== null && Number(revision) >= organisation.revision)) return false;
		const bytes = await promisify(gzip)(serialize(packed), { level: LEVEL });
		await tx.delete(packs);
		for (let part = 0; part * PART < bytes.length; part++) {
			await tx.insert(packs).values({ part, form: FORM, revision: organisation.revision, bytes: bytes.subarray(part * PART, (part + 1) * PART) });
		}
		return true;
	});
}

/** Whether packing an organisation saves the next start much: it is large, and the pack it came from is far behind, if there was one. */
export const worthPacking = (organisation: OrganisationState, from: OrganisationState | null): boolean =>
	organisation.deals.length >= WORTH && (from === null || organisation.revision - from.revision > BEHIND);
