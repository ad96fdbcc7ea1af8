import { companyOf } from "@/core/company";
import { makeHistory } from "@/core/history/make";
import type { Sql } from "../db";
import { buildDeals } from "./dealFacts";
import { type DealRows, readDealRows } from "./readDealRows";
import { type ReferenceData, readReferenceData } from "./readReferenceData";
import type { OrganisationState } from "./state";

/** Reads the whole organisation, row by row. */
export async function loadOrganisation(db: Sql, revision: number, reference?: ReferenceData): Promise<OrganisationState> {
	return withDeals(reference ?? (await readReferenceData(db)), await readDealRows(db, null), revision);
}

function withDeals({ rules, reference }: ReferenceData, rows: DealRows, revision: number): OrganisationState {
	const built = buildDeals(rows, rules, reference);
	return {
		...reference,
		revision,
		deals: built.names,
		dealIndex: new Map(built.names.map((deal, i) => [deal.id, i])),
		company: companyOf({ rules, deals: built.facts, people: reference.people, history: makeHistory(built.names.length, built.versions, rules.zone) }),
	};
}
