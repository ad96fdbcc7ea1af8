import { derive, derived, keyOf } from "@/core/derive";
import { joined } from "@/core/joined";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { ANSWERS_KEPT, derivedFor, viewpointKey } from "@/platform/derivedFor";
import { type Chunk, chunk, textOf } from "@/platform/http/chunks";
import type { Viewpoint } from "@/platform/viewpoint";
import { packBlock, packHead, packScores, packTail, WITH_REASONS } from "../table/pack";
import type { Status } from "../table/statuses";
import { bareRows, bareRowsOf } from "./dealRows";
import { type ListedBlock, listedBlocks, listedDeals, viewFrame } from "./readDeals";

/** Up to this many rows go along with the page; more come after it, so that it doesn't wait for them. */
const WITH_PAGE = 500;

/** The view of a viewpoint's deals as a text in parts: of a block that a write left alone it is the part from before. */
export const packedDeals = query("deals.packed", "readDeals", (context: Context, viewpoint: Viewpoint, status: Status = "open"): readonly Chunk[] =>
	derivedFor(context, viewpoint, `packed ${status}`, () => {
		const { organisation } = context;
		const blocks = listedBlocks(context, viewpoint, status);
		const all = joined(blocks.map(({ deals }) => deals));
		const rowOf = bareRowsOf(organisation, viewpoint);
		const withReasons = all.length <= WITH_REASONS;
		const asked = keyOf(viewpointKey(viewpoint), status, withReasons);
		const packed = ({ seen, at, deals }: ListedBlock): Chunk => {
			const key = keyOf(asked, bareRows(organisation, viewpoint, at));
			return derive(seen.unrated, "deals packed", key, () => chunk(packBlock(deals.map(rowOf), withReasons)), ANSWERS_KEPT);
		};
		const rest = viewFrame(context, viewpoint, status);
		return [
			chunk(packHead(all[0] && rowOf(all[0]))),
			...blocks.flatMap((block) => (block.deals.length ? [packed(block)] : [])),
			chunk(packTail(blocks.map(scoresOf), rest)),
		];
	}),
);

/** The scores of a block's listed deals. */
const scoresOf = derived("scores packed", ({ deals }: ListedBlock): string => packScores(deals.map(({ attention }) => attention)));

/** The same as one text, to go along with a page. */
export const packedDealsText = (context: Context, viewpoint: Viewpoint, status: Status = "open"): string => textOf(packedDeals(context, viewpoint, status));

/** Whether the rows are few enough to go along with the page. */
export const goesWithPage = query("deals.fewEnough", "readDeals", (context: Context, viewpoint: Viewpoint): boolean => {
	return listedDeals(context, viewpoint).length <= WITH_PAGE;
});
