import { gt, sql } from "drizzle-orm";
import { type History, NONE, type VersionRow, withVersions } from "@/core/history/columns";
import type { Company } from "../../core/company";
import { carryWon } from "../../core/history/won";
import type { Db, Sql } from "../db";
import { processSingleton } from "../processSingleton";
import { changeLog } from "../schema";
import { CHANGES_KEPT } from "../store/changeLog";
import { buildDeals } from "./dealFacts";
import { adopt, dealInputs } from "./inputs";
import { loadOrganisation } from "./load";
import { type DealRows, readDealRows } from "./readDealRows";
import { readMarks, readReferenceData } from "./readReferenceData";
import { restoreSnapshot, saveSnapshot, worthSaving } from "./snapshot";
import type { DealAttributes, OrganisationState } from "./state";

const kept = processSingleton("organisation", (): { organisation: OrganisationState | null; loading: Promise<OrganisationState> | null } => ({
	organisation: null,
	loading: null,
}));

type Listener = (from: Company, to: Company, changed: ReadonlySet<number>) => void;
const listeners = processSingleton("patch listeners", () => new Map<string, Listener>());

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
	const { next, toSave } = await db.transaction(
		// The revision is read before the rows, so that what commits in between is read again, never missed.
		async (tx) => {
			const reference = organisation ? undefined : await readReferenceData(tx);
			const from = reference ? await restoreSnapshot(tx, reference) : organisation;
			const followed = from && (from.revision >= revision ? from : await follow(tx, from, revision));
			const next = followed ?? (await loadOrganisation(tx, revision, reference));
			// One that was in memory already has been looked at when it came there.
			return { next, toSave: followed && organisation ? false : worthSaving(next, followed ? from : null) };
		},
		{ isolationLevel: "repeatable read", accessMode: "read only" },
	);
	if (toSave) packSoon(db, next);
	return next;
}

/** After the answers that wait for it. A snapshot that couldn't be made only makes the next start slower. */
function packSoon(db: Db, organisation: OrganisationState): void {
	setTimeout(() => void saveSnapshot(db, organisation).catch(() => false), 3000).unref();
}

/** Takes in what changed since; null where everything has to be read anew. */
async function follow(tx: Sql, organisation: OrganisationState, revision: number): Promise<OrganisationState | null> {
	// The change log is pruned: who has slept for longer than it reaches back can't know what was missed.
	if (revision - organisation.revision > CHANGES_KEPT) return null;
	const since = await tx.select({ dealId: changeLog.dealId, part: changeLog.part }).from(changeLog).where(gt(changeLog.revision, organisation.revision));
	if (since.some(({ dealId, part }) => dealId === null && part === null)) return null;
	const ids = new Set(since.flatMap(({ dealId }) => dealId ?? []));
	const parts = new Set(since.map((change) => change.part));
	const framed = parts.has("settings") ? await reloadSettings(tx, organisation) : organisation;
	const patched = framed && (ids.size ? patch(framed, ids, await readDealRows(tx, [...ids]), revision) : { ...framed, revision });
	if (!patched) return null;
	return parts.has("marks") ? { ...patched, marks: await readMarks(tx, organisation.company.rules.zone) } : patched;
}

/**
 * The same deals under the rules and names as they are now; null where the deals have to be read anew. The history
 * is another object with the same columns, so that nothing that was measured on it by the old rules is kept.
 */
async function reloadSettings(db: Sql, organisation: OrganisationState): Promise<OrganisationState | null> {
	const fresh = await readReferenceData(db);
	const { rules, reference } = fresh;
	const { company, deals } = organisation;
	const adopted = adopt(
		{ deals, facts: company.deals, history: company.history },
		dealInputs({ rules: company.rules, reference: organisation }),
		dealInputs(fresh),
	);
	if (!adopted) return null;
	return { ...organisation, ...reference, company: { rules, people: reference.people, deals: adopted.facts, history: { ...adopted.history } } };
}

/**
 * Takes in deals that changed: what is known of them, and their versions among the columns. `ids` are those that were
 * touched; of them, those without a row are gone. Null when a currency is new that nobody said was.
 */
function patch(organisation: OrganisationState, ids: ReadonlySet<string>, rows: DealRows, revision: number): OrganisationState | null {
	const { company } = organisation;
	const known = new Set(company.rules.currencies);
	if (rows.versions.some((row) => row.currency !== null && !known.has(String(row.currency)))) return null;
	const built = buildDeals(rows, company.rules, organisation);
	const moved = ids.size !== built.names.length || built.names.some((deal) => !organisation.dealIndex.has(deal.id));
	const { dealIndex, from } = moved ? merged(organisation, built.names, ids) : inPlace(organisation, ids);
	const places = built.names.map((deal) => dealIndex.get(deal.id) as number);
	const deals = Array.from(from, (before) => organisation.deals[before] as (typeof built.names)[number]);
	const facts = Array.from(from, (before) => company.deals[before] as (typeof built.facts)[number]);
	places.forEach((at, i) => {
		deals[at] = built.names[i] as (typeof deals)[number];
		facts[at] = built.facts[i] as (typeof facts)[number];
	});
	const versions = built.versions.map((version) => ({ ...version, deal: places[version.deal] as number }));
	const changed = new Set(places);
	const { zone } = company.rules;
	const history = moved || newVersions(company.history, changed, versions) ? withVersions(company.history, from, versions, zone) : company.history;
	const next = { ...company, deals: facts, history };
	// What was worked out is by place: where deals have moved, it is worked out anew.
	if (!moved) {
		if (history !== company.history) carryWon(company.history, history, changed);
		for (const told of listeners.values()) told(company, next, changed);
	}
	return { ...organisation, revision, deals, dealIndex, company: next };
}

/** Where each deal stands, and where it stood before: NONE for those that were read anew. */
interface Places {
	readonly dealIndex: ReadonlyMap<string, number>;
	readonly from: Int32Array;
}

function inPlace({ dealIndex, deals }: OrganisationState, touched: ReadonlySet<string>): Places {
	const from = Int32Array.from(deals.keys());
	for (const id of touched) from[dealIndex.get(id) as number] = NONE;
	return { dealIndex, from };
}

/** The places after some deals have come or gone; the order stays that of `collate "C"`. */
function merged({ deals }: OrganisationState, read: readonly DealAttributes[], touched: ReadonlySet<string>): Places {
	const dealIndex = new Map<string, number>();
	const from: number[] = [];
	const take = (id: string, before: number) => {
		dealIndex.set(id, from.length);
		from.push(before);
	};
	let next = 0;
	const takeRead = (until: string | null) => {
		for (; next < read.length; next++) {
			const { id } = read[next] as DealAttributes;
			if (until !== null && inBytes(id, until) >= 0) break;
			take(id, NONE);
		}
	};
	deals.forEach(({ id }, place) => {
		// Those that were touched come from what was read, or are gone.
		if (touched.has(id)) return;
		takeRead(id);
		take(id, place);
	});
	takeRead(null);
	return { dealIndex, from: Int32Array.from(from) };
}

/** Compares as the database does where a text is ordered by its bytes. */
const inBytes = (a: string, b: string): number => (a === b ? 0 : Buffer.compare(Buffer.from(a), Buffer.from(b)));

/** Whether a deal has other versions than the columns hold; where none has, they are kept with all that was measured on them. */
function newVersions({ offsets, id }: History, changed: ReadonlySet<number>, versions: readonly VersionRow[]): boolean {
	const counts = new Map<number, number>();
	for (const { deal } of versions) counts.set(deal, (counts.get(deal) ?? 0) + 1);
	const held = (deal: number) => id.subarray(offsets[deal], offsets[deal + 1]);
	return [...changed].some((deal) => (counts.get(deal) ?? 0) !== held(deal).length) || versions.some((version) => !held(version.deal).includes(version.id));
}
