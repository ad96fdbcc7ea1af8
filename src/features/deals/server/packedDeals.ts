import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { derivedFor } from "@/platform/derivedFor";
import type { Viewpoint } from "@/platform/viewpoint";
import { packDeals } from "../table/pack";
import type { Status } from "../table/statuses";
import { listedDeals, readDeals } from "./readDeals";

/** Up to this many rows go along with the page; more come after it, so that it doesn't wait for them. */
const WITH_PAGE = 500;

/** The view of a viewpoint's deals as one text; the same text until something changes. */
export const packedDeals = query("deals.packed", "readDeals", (context: Context, viewpoint: Viewpoint, status: Status = "open"): string => {
	return derivedFor(context, viewpoint, `packed ${status}`, () => packDeals(readDeals(context, viewpoint, status)));
});

/** Whether the rows are few enough to go along with the page. */
export const goesWithPage = query("deals.fewEnough", "readDeals", (context: Context, viewpoint: Viewpoint): boolean => {
	return listedDeals(context, viewpoint).length <= WITH_PAGE;
});
