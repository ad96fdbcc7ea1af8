import { byAttention } from "@/core/attention/attention";
import { surveyOn } from "@/core/survey";
import { NO_DAY } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked, periodAsked } from "@/platform/days";
import { reaches, scopeOf } from "@/platform/reach";
import { type DealJson, dealJson } from "./dealJson";

export interface DealFilter {
	readonly as_of?: string | undefined;
	readonly from?: string | undefined;
	readonly to?: string | undefined;
	readonly team?: string | undefined;
	readonly owner?: string | undefined;
	readonly flag?: string | undefined;
	readonly status?: "open" | "won" | "lost" | undefined;
}

/** Deals as seen on a day, in the order of lists. */
export const listDeals = query("deals.list", "readDeals", (context: Context, filter: DealFilter): DealJson[] => {
	const day = dayAsked(context, "as_of", filter.as_of);
	const period = periodAsked(filter.from, filter.to);
	const bounded = filter.from !== undefined || filter.to !== undefined;
	const scope = scopeOf(context, filter.team, filter.owner);
	const found = surveyOn(context.organisation.company, day).deals.filter((seen) => {
		if (!seen || !reaches(scope, seen.owner)) return false;
		if (filter.status && seen.status !== filter.status) return false;
		if (filter.flag && !seen.flags.some((flag) => flag.code === filter.flag)) return false;
		return !bounded || (seen.close !== NO_DAY && seen.close >= period.start && seen.close <= period.end);
	});
	return found
		.flatMap((seen) => (seen ? [dealJson(context.organisation, seen, day)] : []))
		.sort((a, b) =>
			byAttention({ score: a.attention.score, amountBase: a.amountBase, id: a.id }, { score: b.attention.score, amountBase: b.amountBase, id: b.id }),
		);
});
