import type { Context } from "@/platform/context";
import { keptFor } from "@/platform/keptFor";
import { demand } from "@/platform/rights";
import type { Viewpoint } from "@/platform/viewpoint";
import { packDeals } from "../table/pack";
import { listedDeals, readDeals } from "./readDeals";

/** Up to this many rows go along with the page; more come after it, so that it doesn't wait for them. */
const WITH_PAGE = 500;

/** The view of a viewpoint's deals as one text; the same text until something changes. */
export function packedDeals(context: Context, viewpoint: Viewpoint): string {
	demand(context.actor, "readDeals");
	return keptFor(context, viewpoint, "packed", () => packDeals(readDeals(context, viewpoint)));
}

/** Whether the rows are few enough to go along with the page. */
export function goesWithPage(context: Context, viewpoint: Viewpoint): boolean {
	demand(context.actor, "readDeals");
	return listedDeals(context, viewpoint).length <= WITH_PAGE;
}
