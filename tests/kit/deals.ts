import { isoOrNull, NO_DAY } from "@/core/time/day";
import { type DealFilter, listDeals } from "@/features/deals/server/listDeals";
import { readDeals } from "@/features/deals/server/readDeals";
import { isCarriedRow } from "@/features/deals/table/carried";
import type { Status } from "@/features/deals/table/statuses";
import type { Context } from "@/platform/context";
import type { Viewpoint } from "@/platform/viewpoint";

/** All deals that fit, in the order of lists. */
export const allDeals = (context: Context, filter: DealFilter) => listDeals(context, filter, {}).items;

/** The rows of Deals without those carried over: what makes the figures of the period. */
export function dueRows(context: Context, viewpoint: Viewpoint, status: Status = "open") {
	const { start = NO_DAY, end = NO_DAY } = viewpoint.due.period ?? {};
	const due = { start: isoOrNull(start), end: isoOrNull(end) };
	return readDeals(context, viewpoint, status).rows.filter((row) => !isCarriedRow(row, due));
}
