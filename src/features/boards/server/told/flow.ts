import { plural } from "@/core/words/grammar";
import { readFlow } from "@/features/changes";
import { noPeriod, teller } from "./teller";

/** From stage to stage between the two days: each way that was gone, the most deals first. */
export const flowTold = teller({
	key: "flow",
	tell(context, viewpoint) {
		const view = readFlow(context, viewpoint);
		if (!view) return noPeriod("Flow");
		const moved = view.cells.filter(({ from, to }) => from !== to).sort((a, b) => b.count - a.count || b.amount - a.amount);
		return {
			title: "Flow",
			says: [
				`${plural(
					moved.reduce((sum, { count }) => sum + count, 0),
					"deal changed stage",
					"deals changed stage",
				)}.`,
			],
			content: {
				currency: view.currency,
				columns: [
					{ label: "Was in", kind: "text" },
					{ label: "Is in", kind: "text" },
					{ label: "Deals", kind: "count" },
					{ label: `Amount ${view.currency}`, kind: "amount" },
				],
				rows: moved.map(({ from, to, count, amount }) => [from, to, count, amount]),
			},
			path: "/changes?show=flow",
		};
	},
});
