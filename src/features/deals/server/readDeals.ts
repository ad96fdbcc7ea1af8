import { membership } from "@/core/bridge/scope";
import { byId } from "@/core/deal/order";
import type { DealSeen } from "@/core/dealSeen";
import { derive } from "@/core/derive";
import { RULES } from "@/core/flags/list";
import { blockOf } from "@/core/history/columns";
import { rowOf } from "@/core/inspect";
import { joined } from "@/core/joined";
import { isCarried } from "@/core/period/carried";
import { type SeenBlock, surveyOn } from "@/core/survey";
import { NO_DAY } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ANSWERS_KEPT, derivedFor, viewpointKey } from "@/platform/derivedFor";
import { Fault } from "@/platform/fault";
import { reaches } from "@/platform/reach";
import type { Viewpoint } from "@/platform/viewpoint";
import { byScore } from "../table/order";
import type { DealRow } from "../table/row";
import { STATUSES, type Status } from "../table/statuses";
import { rowsOf } from "./dealRows";

/** A status as it stands in an address; open where there is none. Throws a 400 for one there is none of. */
export function statusAsked(asked: string | undefined): Status {
	const status = asked === undefined ? "open" : STATUSES.find((one) => one === asked);
	if (!status) throw new Fault(400, "This address isn’t valid", `“status” is ${asked}; it must be one of ${STATUSES.join(", ")}.`);
	return status;
}

export interface DealsView {
	readonly status: Status;
	readonly rows: readonly DealRow[];
	readonly currency: string;
	/** names of the flags, in their order */
	readonly flagNames: readonly { readonly code: string; readonly name: string; readonly about: string }[];
	/** open deals of the same people outside the period that aren’t listed */
	readonly also: { readonly before: number; readonly after: number; readonly undated: number };
}

/** The deals of a viewpoint, most worrying first; of closed ones the largest. Of open ones those that are carried over too. */
export const readDeals = query("deals.read", "readDeals", (context: Context, viewpoint: Viewpoint, status: Status = "open"): DealsView => {
	const { organisation } = context;
	const rowOf = rowsOf(organisation, viewpoint);
	const rows = listedBlocks(context, viewpoint, status).flatMap(({ deals }) => deals.map(rowOf));
	return { ...viewFrame(context, viewpoint, status), rows: rows.sort(byScore) };
});

/** The open deals of a viewpoint that are asked for, most worrying first: of all others no rows are made. */
export const someDeals = query("deals.some", "readDeals", (context: Context, viewpoint: Viewpoint, isAsked: (seen: DealSeen) => boolean): DealRow[] =>
	listedDeals(context, viewpoint).filter(isAsked).map(rowsOf(context.organisation, viewpoint)).sort(byScore),
);

/** All of a view but its rows. */
export function viewFrame(context: Context, viewpoint: Viewpoint, status: Status): Omit<DealsView, "rows"> {
	const also = { before: 0, after: 0, undated: 0 };
	for (const { also: own } of status === "open" ? listedBlocks(context, viewpoint, status) : []) for (const kind of ALSO) also[kind] += own[kind];
	const { rates } = context.organisation.company.rules;
	return { status, currency: rates.base, flagNames: RULES.map(({ code, name, about }) => ({ code, name, about })), also };
}

/** The largest open deals that are due in a viewpoint’s period, or carried over into it, and no more of them than asked for. */
export const largestDeals = query("deals.largest", "readDeals", (context: Context, viewpoint: Viewpoint, most: number, carried = false): readonly DealRow[] => {
	const rowOf = rowsOf(context.organisation, viewpoint);
	const order = byId(context.organisation.company);
	return [...(carried ? carriedDeals : dueDeals)(context, viewpoint)]
		.sort((a, b) => b.amountBase - a.amountBase || order(a.deal, b.deal))
		.slice(0, most)
		.map(rowOf);
});

/** The open deals that are due in a viewpoint’s period, without those carried over, in no order. */
export const dueDeals = (context: Context, viewpoint: Viewpoint): readonly DealSeen[] =>
	derivedFor(context, viewpoint, "due", () => joined(dueBlocks(context, viewpoint).map((block) => dueIn(block, viewpoint))));

/** The blocks in which they stand, by viewpoint. */
export const dueBlocks = (context: Context, viewpoint: Viewpoint): readonly ListedBlock[] => listedBlocks(context, viewpoint, "open");

/** Those of a block. */
export const dueIn = ({ deals }: ListedBlock, { due: { period }, seen: { day } }: Viewpoint): readonly DealSeen[] =>
	period ? deals.filter(({ close }) => !isCarried(period, close, day)) : deals;

/** The open deals that are carried over into a viewpoint’s period, in no order. */
export const carriedDeals = (context: Context, viewpoint: Viewpoint): readonly DealSeen[] =>
	derivedFor(context, viewpoint, "carried", () => listedDeals(context, viewpoint).filter((seen) => isBroughtIn(viewpoint, seen)));

/** The open deals of a viewpoint as they are seen on its day, those carried over too, in no order. */
export const listedDeals = (context: Context, viewpoint: Viewpoint): readonly DealSeen[] =>
	derivedFor(context, viewpoint, "listed", () => joined(listedBlocks(context, viewpoint, "open").map(({ deals }) => deals)));

const ALSO = ["before", "after", "undated"] as const;

/** The deals of a block that a list holds. */
export interface ListedBlock {
	readonly seen: SeenBlock;
	readonly at: number;
	readonly deals: readonly DealSeen[];
	/** how many open ones of the same people it doesn't hold */
	readonly also: DealsView["also"];
}

/** The deals that a list holds, block by block. */
export function listedBlocks(context: Context, viewpoint: Viewpoint, status: Status): readonly ListedBlock[] {
	const { organisation } = context;
	const key = `${viewpointKey(viewpoint)} ${status}`;
	const isListed = listing(organisation, viewpoint);
	return surveyOn(organisation.company, viewpoint.seen.day).blocks.map((seen, at) =>
		derive(seen, "deals listed", key, () => listedIn(seen, at, viewpoint, status, isListed), ANSWERS_KEPT),
	);
}

function listedIn(block: SeenBlock, at: number, viewpoint: Viewpoint, status: Status, isListed: (seen: DealSeen) => boolean): ListedBlock {
	const also = { before: 0, after: 0, undated: 0 };
	const deals: DealSeen[] = [];
	for (const seen of block.deals) {
		if (!seen || !reaches(viewpoint.whose.scope, seen.owner) || (status === "closed" ? seen.status === "open" : seen.status !== status)) continue;
		if (status !== "open") {
			if (closedIn(viewpoint, seen)) deals.push(seen);
		} else if (isListed(seen) || isBroughtIn(viewpoint, seen)) deals.push(seen);
		else if (seen.close === NO_DAY) also.undated++;
		else if (viewpoint.due.period && seen.close < viewpoint.due.period.start) also.before++;
		else also.after++;
	}
	return { seen: block, at, deals, also };
}

/** Whether an open deal is listed because nobody has decided what becomes of it. */
const isBroughtIn = ({ due: { period }, seen: { day } }: Viewpoint, { close }: DealSeen) => period !== null && isCarried(period, close, day);

/** Whether a closed deal was closed in the viewpoint's period. */
const closedIn = ({ due: { period } }: Viewpoint, { closedDay }: DealSeen) => period !== null && closedDay >= period.start && closedDay <= period.end;

/** Whether an open deal of the viewpoint's people closes in its period; without one, whether it has no close date. Made once for all deals. */
function listing({ company }: OrganisationState, { due, whose }: Viewpoint): (seen: DealSeen) => boolean {
	if (!due.period) return (seen) => seen.close === NO_DAY;
	const isHere = membership(company, due.period, whose.scope);
	return (seen) => isHere(blockOf(company.history, seen.deal), rowOf(company.history, seen));
}

/** How many of a viewpoint's deals are at *act*, and ask for the manager now: the count beside the rail's word. */
export function countAct(context: Context, viewpoint: Viewpoint): number {
	return listedDeals(context, viewpoint).filter((seen) => seen.attention.level === "act").length;
}
