import { membership } from "@/core/bridge/scope";
import { byId } from "@/core/deal/order";
import { RULES } from "@/core/flags/list";
import { blockOf } from "@/core/history/columns";
import { type DealSeen, rowOf } from "@/core/inspect";
import { surveyOn } from "@/core/survey";
import { NO_DAY } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import { Fault } from "@/platform/fault";
import { reaches } from "@/platform/reach";
import type { Viewpoint } from "@/platform/viewpoint";
import type { DealRow } from "../table/row";
import { STATUSES, type Status } from "../table/statuses";
import { rowsOf } from "./keptRows";

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
	/** open deals of the same people outside the period */
	readonly also: { readonly before: number; readonly after: number; readonly undated: number };
}

/** The deals of a viewpoint, most worrying first; of closed ones the largest. */
export const readDeals = query("deals.read", "readDeals", (context: Context, viewpoint: Viewpoint, status: Status = "open"): DealsView => {
	const { organisation } = context;
	const { company } = organisation;
	const { scope } = viewpoint.whose;
	const survey = surveyOn(company, viewpoint.seen.day);
	const also = { before: 0, after: 0, undated: 0 };
	const rows: DealRow[] = [];
	const isListed = listing(organisation, viewpoint);
	const rowOf = rowsOf(organisation, viewpoint);
	for (const seen of survey.deals) {
		if (!seen || !reaches(scope, seen.owner) || (status === "closed" ? seen.status === "open" : seen.status !== status)) continue;
		if (status !== "open") {
			if (closedIn(viewpoint, seen)) rows.push(rowOf(seen));
		} else if (isListed(seen)) rows.push(rowOf(seen));
		else if (seen.close === NO_DAY) also.undated++;
		else if (viewpoint.due.period && seen.close < viewpoint.due.period.start) also.before++;
		else also.after++;
	}
	rows.sort((a, b) => b.score - a.score || b.amount - a.amount || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0));
	return { status, rows, currency: company.rules.rates.base, flagNames: RULES.map(({ code, name, about }) => ({ code, name, about })), also };
});

/** The largest open deals of a viewpoint, and no more of them than asked for. */
export const largestDeals = query("deals.largest", "readDeals", (context: Context, viewpoint: Viewpoint, most: number): readonly DealRow[] => {
	const rowOf = rowsOf(context.organisation, viewpoint);
	const order = byId(context.organisation.company);
	return [...listedDeals(context, viewpoint)]
		.sort((a, b) => b.amountBase - a.amountBase || order(a.deal, b.deal))
		.slice(0, most)
		.map(rowOf);
});

/** The open deals of a viewpoint as they are seen on its day, in no order. */
export function listedDeals(context: Context, viewpoint: Viewpoint): readonly DealSeen[] {
	const { organisation } = context;
	return derivedFor(context, viewpoint, "listed", () => {
		const isListed = listing(organisation, viewpoint);
		const { scope } = viewpoint.whose;
		return surveyOn(organisation.company, viewpoint.seen.day).deals.flatMap((seen) =>
			seen?.status === "open" && reaches(scope, seen.owner) && isListed(seen) ? [seen] : [],
		);
	});
}

/** Whether a closed deal was closed in the viewpoint's period. */
const closedIn = ({ due: { period } }: Viewpoint, { path: { closedDay } }: DealSeen) => period !== null && closedDay >= period.start && closedDay <= period.end;

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
