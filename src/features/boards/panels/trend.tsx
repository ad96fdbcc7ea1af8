import { formatDay } from "@/core/time/day";
import { readTrend, SLICES } from "@/features/changes";
import { NoPeriodTile, TrendTile } from "../ui/Tiles";
import { tile } from "./tile";

/** The open pipeline week by week. */
export const trendTile = tile({
	key: "trend",
	label: "Trend",
	about: "The open amount at each week’s end in bands, with what was won so far and the target",
	size: { w: 7, h: 12 },
	settings: () => [{ name: "by", label: "In bands by", choices: SLICES.map(({ key, label }) => ({ value: key, label })) }],
	show(context, viewpoint, settings) {
		const by = SLICES.find(({ key }) => key === settings.by)?.key ?? "stage";
		const view = readTrend(context, viewpoint, by);
		if (!view) return { title: "Trend", opens: null, node: <NoPeriodTile /> };
		return { title: "Trend", opens: { path: "/changes", more: { show: "trend", by } }, node: <TrendTile view={view} seen={formatDay(viewpoint.seen.day)} /> };
	},
});
