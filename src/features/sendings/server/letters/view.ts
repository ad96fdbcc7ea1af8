import { formatDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { briefDeals, dealsOfView, dealsTable } from "@/features/boards";
import { readViews } from "@/features/deals";
import { letterKind } from "./letter";

/** The deals of a saved view. */
export const viewLetter = letterKind({
	key: "view",
	label: "A saved view of deals",
	of: { label: "Which view", hint: "Recipients need to see the view: share it with their team.", choices: readViews },
	own: true,
	async read(context, viewpoint, of) {
		const view = await dealsOfView(context, of, { due: viewpoint.due.key, seen: formatDay(viewpoint.seen.day) });
		if (!view) return null;
		const words = `${view.name}: ${plural(view.rows.length, "deal")}`;
		return {
			subject: words,
			says: [`${words}.`],
			parts: [{ title: "", says: [], content: dealsTable(view.rows, view.currency), brief: briefDeals(view.rows, view.currency), path: null }],
			path: `/deals?${view.query}`,
		};
	},
});
