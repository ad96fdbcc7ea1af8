import type { DealSeen } from "@/core/dealSeen";
import { derive, keyOf } from "@/core/derive";
import { blockIndex } from "@/core/history/columns";
import { type SeenBlock, surveyOn } from "@/core/survey";
import { accountsKey } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";
import { viewpointKey } from "@/platform/derivedFor";
import type { Viewpoint } from "@/platform/viewpoint";
import { FIGURES } from "../columns";
import type { DealRow } from "../table/row";
import { dealRow } from "./dealRow";

/** Rows by the deal’s index, but for score and level, which move with the whole. */
export type BareRows = Map<number, DealRow>;

/** What the rows of a block hang on besides its deals: rows are made one by one as they are asked for. */
export function bareRows(organisation: OrganisationState, viewpoint: Viewpoint, at: number): BareRows {
	const { seen, against } = viewpoint;
	const { company, people } = organisation;
	const [now, earlier] = [surveyOn(company, seen.day), surveyOn(company, against.day)];
	const [block, before] = [now.blocks[at] as SeenBlock, earlier.blocks[at] as SeenBlock];
	const key = keyOf(before.unrated, now.norms.usual, people, accountsKey(organisation));
	// A column may show a figure of its own, which can be made of anything.
	return derive(FIGURES.length ? block : block.unrated, "deal rows", FIGURES.length ? `${key} ${viewpointKey(viewpoint)}` : key, () => new Map());
}

/** Gives the rows of a viewpoint's deals: those that a write left alone are the ones from before it. */
export function rowsOf(organisation: OrganisationState, viewpoint: Viewpoint): (seen: DealSeen) => DealRow {
	const bareOf = bareRowsOf(organisation, viewpoint);
	return (seen) => {
		const row = bareOf(seen);
		const { score, level } = seen.attention;
		return row.score === score && row.level === level ? row : { ...row, score, level };
	};
}

/** The same, score and level as they may have been before. */
export function bareRowsOf(organisation: OrganisationState, viewpoint: Viewpoint): (seen: DealSeen) => DealRow {
	const earlier = surveyOn(organisation.company, viewpoint.against.day).deals;
	let [at, rows]: [number, BareRows] = [-1, new Map()];
	return (seen) => {
		const own = blockIndex(seen.deal);
		if (own !== at) [at, rows] = [own, bareRows(organisation, viewpoint, own)];
		const row = rows.get(seen.deal) ?? dealRow(organisation, seen, earlier[seen.deal] ?? null, viewpoint);
		rows.set(seen.deal, row);
		return row;
	};
}
