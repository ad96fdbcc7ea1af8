import { shortMoney } from "@/core/money/words";
import { bounded } from "@/core/time/period";
import { outlookPicture, readOutlook } from "@/features/patterns";
import { noPeriod, teller } from "./teller";

/** Where the period will end. */
export const outlookTold = teller({
	key: "outlook",
	async tell(context, viewpoint) {
		const period = bounded(viewpoint.due.period);
		if (!period) return noPeriod("Outlook");
		const view = await readOutlook(context, viewpoint.whose.scope, period, viewpoint.seen.day);
		if (!view.available) return { title: "Outlook", says: [`No outlook: ${view.reason}`], path: "/patterns" };
		const money = (minor: number) => shortMoney(minor, view.currency);
		return {
			title: "Outlook",
			says: [`Most likely about ${money(view.middle)}; between ${money(view.low)} and ${money(view.high)} in eight of ten cases.`],
			picture: outlookPicture(view),
			path: "/patterns",
		};
	},
});
