import { makeHistory } from "@/core/history/columns";
import type { Sql } from "../db";
import { buildDeals } from "./dealFacts";
import { type DealRows, readDealRows } from "./readDealRows";
import { type Frame, readFrame } from "./readFrame";
import type { OrganisationState } from "./state";

/** Reads the whole organisation, row by row. */
export async function loadOrganisation(db: Sql, revision: number, frame?: Frame): Promise<OrganisationState> {
	return withDeals(frame ?? (await readFrame(db)), await readDealRows(db, null), revision);
}

function withDeals({ rules, frame }: Frame, rows: DealRows, revision: number): OrganisationState {
	const built = buildDeals(rows, rules, frame);
	return {
		...frame,
		revision,
		deals: built.names,
		dealIndex: new Map(built.names.map((deal, i) => [deal.id, i])),
		company: { rules, deals: built.facts, people: frame.people, history: makeHistory(built.names.length, built.versions, rules.zone) },
	};
}
