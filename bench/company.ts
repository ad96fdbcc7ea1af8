import { buildDeals } from "@/data/organisation/dealFacts";
import type { DealRows } from "@/data/organisation/readDealRows";
import type { OrganisationState } from "@/data/organisation/state";
import { type Company, companyOf } from "../src/core/company";
import { NONE, type VersionRow } from "../src/core/history/columns";
import { makeHistory } from "../src/core/history/make";
import type { Day } from "../src/core/time/day";
import { ledgerOf } from "../src/fakes/emberwick/generate";
import type { Ledger } from "../src/fakes/emberwick/ledger";

const A_TIME = 40_000;
/** So many people there are for each of the rules’ company, who share their deals among them: as many as so many deals have. */
const CREWS = 5;

export interface BigCompany {
	readonly company: Company;
	/** the version rows as they would be read, for filling other stores; sorted by deal and instant */
	readonly versions: readonly VersionRow[];
	readonly ids: readonly string[];
}

/** The demo company's kind of data at any size, made some ten thousand deals at a time, under the rules of `organisation` and five times its people. */
export function bigCompany(organisation: OrganisationState, today: Day, count: number): BigCompany {
	const facts: Company["deals"][number][] = [];
	const crew = organisation.company.people;
	const people = Array.from({ length: CREWS }, () => crew).flat();
	const shared = (owner: number, deal: number) => (owner === NONE ? NONE : owner + crew.length * (deal % CREWS));
	const versions: VersionRow[] = [];
	const ids: string[] = [];
	for (let made = 0; made < count; made += A_TIME) {
		const ledger = ledgerOf({ today, seed: `bench ${made}`, deals: Math.min(A_TIME, count - made) });
		const built = buildDeals(storedRows(ledger), organisation.company.rules, organisation);
		const before = facts.length;
		for (const deal of built.facts) facts.push(deal);
		for (const deal of built.names) ids.push(`${made}-${deal.id}`);
		const sorted = built.versions.sort((a, b) => a.deal - b.deal || a.at - b.at || a.id - b.id);
		for (const version of sorted) {
			versions.push({ ...version, owner: shared(version.owner, version.deal), deal: version.deal + before, id: versions.length + 1 });
		}
	}
	const history = makeHistory(facts.length, versions, organisation.company.rules.zone);
	return { company: companyOf({ rules: organisation.company.rules, people, deals: facts, history }), versions, ids };
}

/** The rows of a ledger as the database would give them back. */
export function storedRows(ledger: Ledger): DealRows {
	const instants = new Set(["at", "created_at", "done_at"]);
	const read = (file: Parameters<Ledger["rows"]["get"]>[0], names: Record<string, string> = {}) =>
		(ledger.rows.get(file) ?? []).map(({ fields }, i) => {
			const row: Record<string, unknown> = { id: i + 1 };
			for (const [name, value] of Object.entries(fields)) {
				row[names[name] ?? name] = instants.has(name) && typeof value === "string" ? Date.parse(value) : value;
			}
			return row;
		});
	const roles = new Map((ledger.rows.get("contacts.csv") ?? []).map(({ fields }) => [fields.id, fields.buying_role]));
	return {
		deals: read("deals.csv"),
		versions: read("deal_versions.csv", { at: "valid_from" }),
		contacts: read("deal_contacts.csv").map((row) => ({ ...row, buying_role: roles.get(row.contact_id as string) ?? null })),
		lines: [],
		formerDeals: [],
		formerRoles: [],
		quotes: read("quotes.csv"),
		rests: [],
		activities: read("activities.csv"),
		answers: read("answers.csv"),
		tasks: read("tasks.csv").map((row) => ({ done_at: null, ...row })),
	};
}
