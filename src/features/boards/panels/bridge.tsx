import { readChanges } from "@/features/changes";
import { BridgeTile, NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

/** The bridge between the two days. */
export const bridgeTile = tile({
	key: "bridge",
	label: "Bridge",
	about: "What changed between the earlier day and the day shown",
	size: { w: 7, h: 11 },
	settings: () => [],
	show(context, viewpoint) {
		const view = readChanges(context, viewpoint, { limit: 1 });
		if (!view) return { title: "Bridge", opens: null, node: <NoPeriodTile /> };
		const steps = view.steps.filter((step) => step.count > 0 || step.kind === "opening" || step.kind === "closing").map((step) => ({ ...step, deals: [] }));
		return { title: view.headline, opens: { path: "/changes" }, node: <BridgeTile steps={steps} currency={view.currency} /> };
	},
});
