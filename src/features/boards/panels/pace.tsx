import { formatDay } from "@/core/time/day";
import { readPeriod } from "@/features/period";
import { PaceChart } from "@/features/period/ui/PaceChart";
import { NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

/** The chart of pace. */
export const paceTile = tile({
	key: "pace",
	label: "Pace",
	about: "What was won by working day, against the last period and a year ago",
	size: { w: 7, h: 11 },
	settings: () => [],
	async show(context, viewpoint) {
		const view = await readPeriod(context, viewpoint);
		if (!view) return { title: "Pace", opens: null, node: <NoPeriodTile /> };
		return {
			title: "Pace",
			opens: { path: "/period" },
			node: <PaceChart view={view} days={{ from: view.from, to: view.to, seen: formatDay(viewpoint.seen.day) }} />,
		};
	},
});
