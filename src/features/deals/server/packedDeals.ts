import type { Context } from "@/platform/context";
import { listedDeals, readDeals } from "./readDeals";
import { demand } from "@/platform/rights";
import type { Sentence } from "@/platform/viewpoint";
import { keptFor } from "@/platform/keptFor";
import { packDeals } from "../table/pack";

/** Up to this many rows go along with the page; more come after it, so that it doesn't wait for them. */
const WITH_PAGE = 500;

/** The view of a sentence's deals as one text; the same text until something changes. */
export function packedDeals(context: Context, sentence: Sentence): string {
	demand(context.actor, "readDeals");
	return keptFor(context, sentence, "packed", () => packDeals(readDeals(context, sentence)));
}

/** Whether the rows are few enough to go along with the page. */
export function goesWithPage(context: Context, sentence: Sentence): boolean {
	demand(context.actor, "readDeals");
	return listedDeals(context, sentence).length <= WITH_PAGE;
}
