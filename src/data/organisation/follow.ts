import { gt, sql } from "drizzle-orm";
import { companyOf, type DealFacts } from "@/core/company";
import { NO_ACTIVITIES } from "@/core/contact/activities";
import { blockOf, endRow, firstRow, type History, type VersionRow } from "@/core/history/columns";
import { withVersions } from "@/core/history/make";
import { NO_ANSWERS } from "@/core/qualification/answers";
import { NO_DAY } from "@/core/time/day";
import type { ChangePart } from "@/data/schema/record";
import type { Db, Sql } from "../db";
import { processSingleton } from "../processSingleton";
import { changeLog } from "../schema";
import { CHANGES_KEPT } from "../store/changeLog";
import { buildDeals } from "./dealFacts";
import { adopt, dealInputs } from "./inputs";
import { loadOrganisation } from "./load";
import { type DealRows, readDealRows } from "./readDealRows";
import { readAccounts, readLooseTasks, readMarks, readReferenceData, readTargets } from "./readReferenceData";
import { restoreSnapshot, saveSnapshot, worthSaving } from "./snapshot";
import type { DealAttributes, OrganisationState } from "./state";

const kept = processSingleton("organisation", (): { organisation: OrganisationState | null; loading: Promise<OrganisationState> | null } => ({
	organisation: null,
	loading: null,
}));

/** The revision of what this process has read; null before it has read anything. */
export const keptRevision = (): number | null => kept.organisation?.revision ?? null;

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
	if (!framed) return null;
	const fresh = parts.has("settings")
		? []
		: await Promise.all([...parts].map((part) => (part === null || part === "settings" ? {} : PARTS[part](tx, organisation))));
	// Deals are read by what is known beside them: the name of their account is one of their facts.
	const beside: OrganisationState = Object.assign({ ...framed }, ...fresh);
	return ids.size ? patch(beside, ids, await readDealRows(tx, [...ids]), revision) : { ...beside, revision };
}

/** What is read again where a part of what isn't about deals has changed. */
const PARTS: Readonly<Record<Exclude<ChangePart, "settings">, (tx: Sql, organisation: OrganisationState) => Promise<Partial<OrganisationState>>>> = {
	marks: async (tx, { company }) => ({ marks: await readMarks(tx, company.rules.zone) }),
	targets: (tx, { personIndex }) => readTargets(tx, personIndex),
	accounts: async (tx, { company }) => ({ accounts: await readAccounts(tx, company.rules.zone) }),
	"loose tasks": async (tx, { company, personIndex }) => ({ looseTasks: await readLooseTasks(tx, company.rules.zone, personIndex) }),
};

/**
 * The same deals under the rules and names as they are now; null where the deals have to be read anew.
 */
async function reloadSettings(db: Sql, organisation: OrganisationState): Promise<OrganisationState | null> {
	const fresh = await readReferenceData(db, { rules: organisation.company.rules, people: organisation.people, accounts: organisation.accounts });
	const { rules, reference } = fresh;
	const { company, deals } = organisation;
	const adopted = adopt(
		{ deals, facts: company.deals, history: company.history },
		dealInputs({ rules: company.rules, reference: organisation }),
		dealInputs(fresh),
	);
	if (!adopted) return null;
	return { ...organisation, ...reference, company: companyOf({ rules, people: reference.people, deals: adopted.facts, history: adopted.history }, company) };
}

/** What is kept of a deal that is gone: its place stays empty for ever, so that no other deal's place moves. */
const GONE: { readonly name: DealAttributes; readonly facts: DealFacts } = {
	name: {
		id: "",
		name: "",
		accountId: null,
		source: null,
		competitor: null,
		outcomeReason: null,
		tags: [],
		products: [],
		families: [],
		familyWorth: [],
		createdAt: 0,
		former: [],
	},
	facts: { id: "", createdDay: NO_DAY, hasAccountName: false, buyers: [], activities: NO_ACTIVITIES, answers: NO_ANSWERS, tasks: [], quotes: [], rests: [] },
};

/**
 * Reads deals that changed into an organisation: what is known of them, and their versions. `ids` are those that were
 * touched; of them, those without a row are gone. A new deal takes the next place. Null when a currency is new that nobody said was.
 */
function patch(organisation: OrganisationState, ids: ReadonlySet<string>, rows: DealRows, revision: number): OrganisationState | null {
	const { company } = organisation;
	const known = new Set(company.rules.currencies);
	if (rows.versions.some((row) => row.currency !== null && !known.has(String(row.currency)))) return null;
	const built = buildDeals(rows, company.rules, organisation);
	const { dealIndex, gone } = placed(organisation, built.names, ids);
	const places = built.names.map((deal) => dealIndex.get(deal.id) as number);
	const deals = organisation.deals.slice();
	const facts = company.deals.slice();
	for (const at of gone) [deals[at], facts[at]] = [GONE.name, GONE.facts];
	places.forEach((at, i) => {
		deals[at] = built.names[i] as DealAttributes;
		facts[at] = built.facts[i] as DealFacts;
	});
	const versions = built.versions.map((version) => ({ ...version, deal: places[version.deal] as number }));
	const changed = new Set([...gone, ...places]);
	const same = deals.length === company.history.deals && !newVersions(company.history, changed, versions);
	const history = same ? company.history : withVersions(company.history, deals.length, changed, versions, company.rules.zone);
	return { ...organisation, revision, deals, dealIndex, company: companyOf({ rules: company.rules, people: company.people, deals: facts, history }, company) };
}

/** The places of all deals after some have come or gone, and those that are empty now. */
function placed({ dealIndex, deals }: OrganisationState, read: readonly DealAttributes[], touched: ReadonlySet<string>) {
	const there = new Set(read.map(({ id }) => id));
	const lost = [...touched].filter((id) => !there.has(id) && dealIndex.has(id));
	const came = read.filter(({ id }) => !dealIndex.has(id));
	if (!lost.length && !came.length) return { dealIndex, gone: [] };
	const next = new Map(dealIndex);
	for (const id of lost) next.delete(id);
	came.forEach(({ id }, i) => {
		next.set(id, deals.length + i);
	});
	return { dealIndex: next, gone: lost.map((id) => dealIndex.get(id) as number) };
}

/** Whether a deal has other versions than are kept; where none has, they are kept with all that was measured on them. */
function newVersions(history: History, changed: ReadonlySet<number>, versions: readonly VersionRow[]): boolean {
	const counts = new Map<number, number>();
	for (const { deal } of versions) counts.set(deal, (counts.get(deal) ?? 0) + 1);
	const held = (deal: number) => {
		const block = blockOf(history, deal);
		return block.id.subarray(firstRow(block, deal), endRow(block, deal));
	};
	return [...changed].some((deal) => (counts.get(deal) ?? 0) !== held(deal).length) || versions.some((version) => !held(version.deal).includes(version.id));
}
