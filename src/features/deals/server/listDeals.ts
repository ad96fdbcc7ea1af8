import { byAttention } from "@/core/attention/attention";
import type { Company } from "@/core/company";
import type { DealSeen } from "@/core/dealSeen";
import { derive } from "@/core/derive";
import { merged } from "@/core/merged";
import { surveyOn } from "@/core/survey";
import { type Day, NO_DAY } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked, periodAsked } from "@/platform/days";
import { page } from "@/platform/http/api";
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

/** A deal by what it is ordered by. */
interface Line {
	readonly id: string;
	readonly score: number;
	readonly amountBase: number;
	readonly seen: DealSeen;
}

/** All deals as seen on a day in the order of lists. What a write didn't touch stays sorted. */
function inOrder(company: Company, day: Day): readonly Line[] {
	const lists = surveyOn(company, day).blocks.map((block) =>
		derive(block, "deals by attention", null, () =>
			block.deals
				.flatMap((seen): Line[] => (seen ? [{ id: company.deals[seen.deal]?.id ?? "", score: seen.attention.score, amountBase: seen.amountBase, seen }] : []))
				.sort(byAttention),
		),
	);
	return merged(lists, "deals by attention", byAttention, Number.POSITIVE_INFINITY);
}

/** Those that are found, one after another: of many thousand only a page is asked for. */
function* foundIn(lines: readonly Line[], isFound: (line: Line) => boolean): Iterable<Line> {
	for (const line of lines) if (isFound(line)) yield line;
}

/** Deals as seen on a day, in the order of lists: those of a page alone are told in full, all of them where no limit is given. */
export const listDeals = query(
	"deals.list",
	"readDeals",
	(
		context: Context,
		filter: DealFilter,
		{ cursor, limit = Number.POSITIVE_INFINITY }: { cursor?: string | undefined; limit?: number },
	): { items: DealJson[]; next: string | null } => {
		const day = dayAsked(context, "as_of", filter.as_of);
		const period = periodAsked(filter.from, filter.to);
		const bounded = filter.from !== undefined || filter.to !== undefined;
		const scope = scopeOf(context, filter.team, filter.owner);
		const isFound = ({ seen }: Line) => {
			if (!reaches(scope, seen.owner)) return false;
			if (filter.status && seen.status !== filter.status) return false;
			if (filter.flag && !seen.flags.some((flag) => flag.code === filter.flag)) return false;
			return !bounded || (seen.close !== NO_DAY && seen.close >= period.start && seen.close <= period.end);
		};
		const { items, next } = page(foundIn(inOrder(context.organisation.company, day), isFound), cursor, limit);
		return { items: items.map(({ seen }) => dealJson(context.organisation, seen, day)), next };
	},
);
