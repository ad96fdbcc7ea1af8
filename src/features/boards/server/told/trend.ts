import { readTrend, SLICES, trendPicture } from "@/features/changes";
import { noPeriod, teller } from "./teller";

/** The open pipeline week by week. */
export const trendTold = teller({
	key: "trend",
	tell(context, viewpoint, settings) {
		const by = SLICES.find(({ key }) => key === settings.by)?.key ?? "stage";
		const view = readTrend(context, viewpoint, by);
		if (!view) return noPeriod("Trend");
		const picture = trendPicture(view);
		return { title: "Trend", says: [`${picture.alt}.`], picture, path: `/changes?show=trend&by=${by}` };
	},
});
