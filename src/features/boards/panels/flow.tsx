import { readFlow } from "@/features/changes";
import { FlowTile, NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

/** From stage to stage between the two days. */
export const flowTile = tile({
	key: "flow",
	label: "Flow",
	about: "Which stages deals moved between, from the earlier day to the day shown",
	size: { w: 12, h: 9 },
	settings: () => [],
	show(context, viewpoint) {
		const view = readFlow(context, viewpoint);
		const opens = view && ({ path: "/changes", more: { show: "flow" } } as const);
		// A tile shows counts and sums; the deals of a cell are where it leads.
		return { title: "Flow", opens, node: view ? <FlowTile view={{ ...view, cells: view.cells.map((cell) => ({ ...cell, deals: [] })) }} /> : <NoPeriodTile /> };
	},
});
