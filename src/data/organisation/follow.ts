import { isDeepStrictEqual } from "node:util";
import { gt, sql } from "drizzle-orm";
import { type History, type VersionRow, withVersions } from "@/core/history/columns";
import type { Company } from "../../core/company";
import { carryWon } from "../../core/history/won";
import type { Db, Sql } from "../db";
import { processWide } from "../processWide";
import { tail } from "../schema";
import { TAIL_KEPT } from "../store/touch";
import { buildDeals, type DealRows, dealInputs, loadOrganisation, readDealRows, readFrame, readMarks } from "./load";
import { pack, unpack, worthPacking } from "./pack";
import type { OrganisationState } from "./state";

const kept = processWide("organisation", (): { organisation: OrganisationState | null; loading: Promise<OrganisationState> | null } => ({
	organisation: null,
	loading: null,
}));

type Listener = (from: Company, to: Company, changed: ReadonlySet<number>) => void;
const listeners = processWide("patch listeners", () => new Map<string, Listener>());

/** Is told, by name and once, whenever a company is made from another one of which some deals changed: what was worked out of the others can be taken over. */
export const whenPatched = (name: string, listener: Listener): void => void listeners.set(name, listener);

async function currentRevision(db: Db): Promise<number> {
	const result = await db.execute(sql`select number from revision`);
	return Number(result.rows[0]?.number ?? 0);
}

/**
 * The organisation as of the last committed write of any process: one cheap read of the revision a call,
 * and only what changed since is read again.
 */
export async function currentOrganisation(db: Db, known?: number): Promise<OrganisationState> {
	const revision = known ?? (await currentRevision(db));
	// Whoever comes while others are being told waits for them, and only then looks whether anything is left to ask.
	while (!kept.organisation || kept.organisation.revision < revision) {
		if (!kept.loading) break;
		await kept.loading.catch(() => null);
	}
	if (kept.organisation && kept.organisation.revision >= revision) return kept.organisation;
	const loading = advance(db, kept.organisation, revision);
	kept.loading = loading;
	try {
		const organisation = await loading;
		if (!kept.organisation || organisation.revision >= kept.organisation.revision) kept.organisation = organisation;
		return organisation;
	} finally {
		if (kept.loading === loading) kept.loading = null;
	}
}

async function advance(db: Db, organisation: OrganisationState | null, revision: number): Promise<OrganisationState> {
	const { next, toPack } = await db.transaction(
		// The revision is read before the rows, so that what commits in between is read again, never missed.
		async (tx) => {
			const frame = organisation ? undefined : await readFrame(tx);
			const from = frame ? await unpack(tx, frame) : organisation;
			const followed = from && (from.revision >= revision ? from : await follow(tx, from, revision));
			const next = followed ?? (await loadOrganisation(tx, revision, frame));
			// One that was in memory already has been looked at when it came there.
			return { next, toPack: followed && organisation ? false : worthPacking(next, followed ? from : null) };
		},
		{ isolationLevel: "repeatable read", accessMode: "read only" },
	);
	if (toPack) packSoon(db, next);
	return next;
}

/** After the answers that wait for it. A pack that couldn't be made only makes the next start slower. */
function packSoon(db: Db, organisation: OrganisationState): void {
	setTimeout(() => void pack(db, organisation).catch(() => false), 3000).unref();
}

/** Takes in what changed since; null where everything has to be read anew. */
async function follow(tx: Sql, organisation: OrganisationState, revision: number): Promise<OrganisationState | null> {
	// The tail is pruned: who has slept for longer than it reaches back can't know what was missed.
	if (revision - organisation.revision > TAIL_KEPT) return null;
	const since = await tx.select({ dealId: tail.dealId, part: tail.part }).from(tail).where(gt(tail.revision, organisation.revision));
	const ids = new Set(since.filter((change) => change.part === null).map((change) => change.dealId));
	if (![...ids].every((id) => id !== null && organisation.dealIndex.has(id))) return null;
	const parts = new Set(since.map((change) => change.part));
	const framed = parts.has("settings") ? await reframed(tx, organisation) : organisation;
	const patched = framed && (ids.size ? patch(framed, await readDealRows(tx, [...ids] as string[]), revision) : { ...framed, revision });
	if (!patched) return null;
	return parts.has("marks") ? { ...patched, marks: await readMarks(tx, organisation.company.rules.zone) } : patched;
}

/**
 * The same deals under the rules and names as they are now; null where the deals have to be read anew. The history
 * is another object with the same columns, so that nothing that was measured on it by the old rules is kept.
 */
async function reframed(db: Sql, organisation: OrganisationState): Promise<OrganisationState | null> {
	const fresh = await readFrame(db);
	const { rules, frame } = fresh;
	if (!isDeepStrictEqual(dealInputs(fresh), dealInputs({ rules: organisation.company.rules, frame: organisation }))) return null;
	return { ...organisation, ...frame, company: { ...organisation.company, rules, people: frame.people, history: { ...organisation.company.history } } };
}

/** Takes in deals that changed: what is known of them, and their versions among the columns. Null when a currency is new. */
function patch(organisation: OrganisationState, rows: DealRows, revision: number): OrganisationState | null {
	const { company } = organisation;
	const known = new Set(company.rules.currencies);
	if (rows.versions.some((row) => row.currency !== null && !known.has(String(row.currency)))) return null;
	const built = buildDeals(rows, company.rules, organisation);
	const deals = [...organisation.deals];
	const facts = [...company.deals];
	const places = built.names.map((deal) => organisation.dealIndex.get(deal.id) as number);
	built.names.forEach((deal, i) => {
		const at = places[i] as number;
		deals[at] = deal;
		facts[at] = built.facts[i] as (typeof facts)[number];
	});
	const versions = built.versions.map((version) => ({ ...version, deal: places[version.deal] as number }));
	const changed = new Set(places);
	const history = newVersions(company.history, versions) ? withVersions(company.history, deals.length, changed, versions, company.rules.zone) : company.history;
	const next = { ...company, deals: facts, history };
	if (history !== company.history) carryWon(company.history, history, changed);
	for (const told of listeners.values()) told(company, next, changed);
	return { ...organisation, revision, deals, company: next };
}

/** Whether a deal has versions that the columns don't hold; where it hasn't, they are kept with all that was measured on them. */
function newVersions({ offsets, id }: History, versions: readonly VersionRow[]): boolean {
	const counts = new Map<number, number>();
	for (const { deal } of versions) counts.set(deal, (counts.get(deal) ?? 0) + 1);
	const held = (deal: number) => id.subarray(offsets[deal], offsets[deal + 1]);
	return [...counts].some(([deal, count]) => count !== held(deal).length) || versions.some((version) => !held(version.deal).includes(version.id));
}
