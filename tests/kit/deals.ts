import { type DealFilter, listDeals } from "@/features/deals/server/listDeals";
import type { Context } from "@/platform/context";

/** All deals that fit, in the order of lists. */
export const allDeals = (context: Context, filter: DealFilter) => listDeals(context, filter, {}).items;
