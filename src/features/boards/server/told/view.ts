import { formatDay } from "@/core/time/day";
import { dealsOfView } from "../dealsOfView";
import { briefDeals, dealsTable, sumWords } from "./deals";
import { teller } from "./teller";

/** A saved view of deals. */
export const viewTold = teller({
	key: "view",
	async tell(context, viewpoint, settings) {
		const days = { due: viewpoint.due.key, seen: formatDay(viewpoint.seen.day), against: formatDay(viewpoint.against.day) };
		const shown = await dealsOfView(context, settings.view ?? "", days);
		if (!shown) return { title: "A saved view", says: ["This view isn’t yours to see, or is no longer there."], path: null };
		return {
			title: shown.name,
			says: [`${sumWords(shown.rows, shown.currency)}.`],
			content: dealsTable(shown.rows, shown.currency),
			brief: briefDeals(shown.rows, shown.currency),
			path: `/deals?${shown.query}`,
		};
	},
});
