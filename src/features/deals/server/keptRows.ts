import { LRUCache } from "lru-cache";
import type { Company } from "@/core/company";
import type { DealSeen } from "@/core/inspect";
import { surveyOn } from "@/core/survey";
import type { Account, DealAttributes, OrganisationState, Person } from "@/data/organisation/state";
import { processSingleton } from "@/data/processSingleton";
import { viewpointKey } from "@/platform/derivedFor";
import type { Viewpoint } from "@/platform/viewpoint";
import { FIGURES } from "../columns";
import type { DealRow } from "../table/row";
import { dealRow } from "./dealRow";

/** What a row was made of: while all of it is the same, so is the row. */
interface Made {
	readonly row: DealRow;
	readonly seen: DealSeen;
	readonly earlier: DealSeen | null;
	readonly attributes: DealAttributes | undefined;
	readonly account: Account | undefined;
	readonly owner: Person | undefined;
	readonly rules: Company["rules"];
	readonly usual: unknown;
}

/** rows of the viewpoints looked at last; they are dear to make and few of them change by a write */
const kept = processSingleton("deal rows", () => new LRUCache<string, Map<number, Made>>({ maxSize: 60_000, sizeCalculation: (rows) => rows.size + 1 }));

/** Gives the rows of a viewpoint's deals: those that a write left alone are the ones from before it. */
export function rowsOf(organisation: OrganisationState, viewpoint: Viewpoint): (seen: DealSeen) => DealRow {
	const { company } = organisation;
	const key = viewpointKey(viewpoint);
	const before = kept.get(key);
	const rows = new Map<number, Made>();
	const { usual } = surveyOn(company, viewpoint.seen.day).norms;
	const earlier = surveyOn(company, viewpoint.against.day).deals;
	return (seen) => {
		const attributes = organisation.deals[seen.deal];
		const made = {
			seen,
			earlier: earlier[seen.deal] ?? null,
			attributes,
			account: organisation.accounts.get(attributes?.accountId ?? ""),
			owner: organisation.people[seen.owner],
			rules: company.rules,
			usual,
		};
		const known = before?.get(seen.deal);
		const row = known && isSame(known, made) ? known.row : dealRow(organisation, seen, made.earlier, viewpoint);
		rows.set(seen.deal, { ...made, row });
		// The size is counted anew as the rows come in.
		if (rows.size === 1 || rows.size % 1000 === 0) kept.set(key, rows);
		return row;
	};
}

function isSame(a: Made, b: Omit<Made, "row">): boolean {
	return (
		a.attributes === b.attributes &&
		a.account === b.account &&
		a.owner === b.owner &&
		a.rules === b.rules &&
		a.usual === b.usual &&
		// A deal that changed was inspected anew, so its trail is another; attention may move with the whole.
		a.seen.trail === b.seen.trail &&
		a.seen.contact === b.seen.contact &&
		a.seen.flags === b.seen.flags &&
		a.seen.attention.score === b.seen.attention.score &&
		a.seen.attention.level === b.seen.attention.level &&
		(FIGURES.length === 0 || a.seen.attention === b.seen.attention) &&
		a.earlier?.trail === b.earlier?.trail &&
		a.earlier?.flags === b.earlier?.flags
	);
}
