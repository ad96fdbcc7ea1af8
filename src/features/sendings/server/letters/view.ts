import { formatDay } from "@/core/time/day";
import { plural } from "@/core/words/grammar";
import { dealsOfView } from "@/features/boards";
import { letterKind } from "./letter";

/** The deals of a saved view. */
export const viewLetter = letterKind({
	key: "view",
	label: "A saved view of deals",
	of: "view",
	async read(context, viewpoint, of) {
		const view = await dealsOfView(context, of, { due: viewpoint.due.key, seen: formatDay(viewpoint.seen.day) });
		if (!view) return null;
		const words = `${view.name}: ${plural(view.rows.length, "deal")}`;
		return {
			subject: words,
			says: [`${words}.`],
			content: {
				currency: view.currency,
				columns: [
					{ label: "Deal", kind: "text" },
					{ label: "Account", kind: "text" },
					{ label: "Rep", kind: "text" },
					{ label: "Stage", kind: "text" },
					{ label: `Amount ${view.currency}`, kind: "amount" },
					{ label: "Close date", kind: "day" },
					{ label: "Need", kind: "count" },
					{ label: "Flags", kind: "text" },
				],
				rows: view.rows.map(({ name, account, owner, stage, amount, close, score, flags }) => [
					name,
					account,
					owner,
					stage,
					amount,
					close,
					score,
					flags.map(({ label }) => label).join(", "),
				]),
			},
			path: `/deals?${view.query}`,
		};
	},
});
