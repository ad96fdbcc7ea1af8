import type { DealSeen } from "@/core/dealSeen";
import { asOf, blockOf } from "@/core/history/columns";
import { surveyOn } from "@/core/survey";
import type { Day } from "@/core/time/day";
import type { DealAttributes } from "@/data/organisation/state";
import type { Context } from "./context";
import { notFound } from "./fault";
import { reaches, reachOf } from "./reach";

/** A deal as it stands now, for whoever reaches it; a 404 for everybody else, so that an address tells nothing. */
export function reachDeal(context: Context, id: string): { index: number; seen: DealSeen; attributes: DealAttributes } {
	const { organisation, actor, now } = context;
	const index = organisation.dealIndex.get(id);
	const seen = index === undefined ? null : surveyOn(organisation.company, now.day).deals[index];
	const attributes = index === undefined ? undefined : organisation.deals[index];
	if (index === undefined || !seen || !attributes || !reaches(reachOf(organisation, actor), seen.owner)) throw notFound("deal", id);
	return { index, seen, attributes };
}

/** Whether the person reaches a deal today. */
export function reachesToday(context: Context, dealId: string): boolean {
	const { organisation, now } = context;
	const seen = surveyOn(organisation.company, now.day).deals[organisation.dealIndex.get(dealId) ?? -1];
	return seen ? reaches(reachOf(organisation, context.actor), seen.owner) : false;
}

/**
 * A deal as it stood at the end of a day, for whoever reaches it now, and for whoever reached it then; `now` says
 * whether the person reaches it still. A 404 where it wasn't there, and for everybody else.
 */
export function reachDealOn(context: Context, id: string, day: Day): { index: number; seen: DealSeen; attributes: DealAttributes; now: boolean } {
	const { organisation, actor } = context;
	const index = organisation.dealIndex.get(id);
	const seen = index === undefined ? null : surveyOn(organisation.company, day).deals[index];
	const attributes = index === undefined ? undefined : organisation.deals[index];
	if (index === undefined || !seen || !attributes) throw notFound("deal", id);
	const { history } = organisation.company;
	const reach = reachOf(organisation, actor);
	const row = asOf(history, index, context.now.day);
	const now = row >= 0 && reaches(reach, blockOf(history, index).owner[row] as number);
	if (!now && !reaches(reach, seen.owner)) throw notFound("deal", id);
	return { index, seen, attributes, now };
}
