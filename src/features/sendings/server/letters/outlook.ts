import { shortMoney } from "@/core/money/words";
import { bounded } from "@/core/time/period";
import { outlookFile, outlookPicture, readOutlook } from "@/features/patterns";
import { letterKind } from "./letter";

/** Where the period will end, with the deals that decide it. */
export const outlookLetter = letterKind({
	key: "outlook",
	label: "Outlook: where the period ends",
	async read(context, viewpoint) {
		const period = bounded(viewpoint.due.period);
		const view = period && (await readOutlook(context, viewpoint.whose.scope, period, viewpoint.seen.day));
		if (!view?.available) return null;
		const money = (minor: number) => shortMoney(minor, view.currency);
		const words = `${viewpoint.due.label} ends most likely at ${money(view.middle)}, between ${money(view.low)} and ${money(view.high)} in eight of ten cases`;
		const { sheets: _, columns, rows, currency } = await outlookFile(context, viewpoint);
		// What each chance rests on is for those who open it.
		const told = columns.findIndex(({ label }) => label === "Decides") + 1;
		const content = { currency, columns, rows };
		const brief = { columns: columns.slice(0, told), rows: rows.map((row) => row.slice(0, told)) };
		return {
			subject: words,
			says: [`${words}.`],
			parts: [{ title: "", says: [], picture: outlookPicture(view), content, brief, path: null }],
			path: "/patterns",
		};
	},
});
