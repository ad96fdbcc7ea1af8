import { bounded } from "@/core/time/period";
import { glanceOutlook } from "@/features/patterns";
import { OutlookTile } from "@/features/patterns/ui/OutlookTile";
import { NoPeriodTile } from "../ui/Tiles";
import { tile } from "./tile";

/** Where the period will end. */
export const outlookTile = tile({
	key: "outlook",
	label: "Outlook",
	about: "Where the period ends in eight of ten cases, from how comparable deals ended",
	size: { w: 6, h: 6 },
	settings: () => [],
	async show(context, viewpoint) {
		const period = bounded(viewpoint.due.period);
		if (!period) return { title: "Outlook", opens: null, node: <NoPeriodTile /> };
		const { answer } = await glanceOutlook(context, viewpoint.whose.scope, period, viewpoint.seen.day);
		return { title: "Outlook", opens: { path: "/patterns" }, node: <OutlookTile view={answer} /> };
	},
});
