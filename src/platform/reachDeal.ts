import type { DealSeen } from "@/core/inspect";
import type { DealAttributes } from "@/data/organisation/state";
import type { Context } from "./context";
import { notFound } from "./fault";
import { reaches, reachOf } from "./reach";
import { surveyOn } from "./survey";

/** A deal as it stands now, for whoever reaches it; a 404 for everybody else, so that an address tells nothing. */
export function reachDeal(context: Context, id: string): { index: number; seen: DealSeen; attributes: DealAttributes } {
	const { organisation, actor, now } = context;
	const index = organisation.dealIndex.get(id);
	const seen = index === undefined ? null : surveyOn(organisation.company, now.day).deals[index];
	const attributes = index === undefined ? undefined : organisation.deals[index];
	if (index === undefined || !seen || !attributes || !reaches(reachOf(organisation, actor), seen.owner)) throw notFound("deal", id);
	return { index, seen, attributes };
}
