import { filterField } from "@/features/deals/filters";
import { dealsOfTile } from "../server/dealsOfTile";
import { shownDeals } from "../table/shownDeals";
import { DealsTile } from "../ui/Tiles";
import { tile } from "./tile";

const FIELDS = ["level", "category", "stage", "owner", "territory", "family", "source", "tag"];
const ORDERS = [
	{ value: "amount", label: "largest first" },
	{ value: "score", label: "most pressing first" },
	{ value: "close", label: "next due first" },
] as const;

/** A list of deals with a filter of its own. */
export const dealsTile = tile({
	key: "deals",
	label: "A list of deals",
	about: "Deals of the period that have a value in a field, in an order of your own",
	size: { w: 6, h: 8 },
	settings: () => [
		{
			name: "status",
			label: "Which",
			choices: [
				{ value: "open", label: "open deals" },
				{ value: "won", label: "won deals" },
				{ value: "lost", label: "lost deals" },
			],
		},
		{
			name: "field",
			label: "Filtered by",
			choices: [{ value: "", label: "nothing" }, ...FIELDS.map((field) => ({ value: field, label: filterField(field)?.label ?? field }))],
		},
		{ name: "value", label: "Value (separate several with |)" },
		{ name: "order", label: "Order", choices: ORDERS },
	],
	show(context, viewpoint, settings) {
		const { title, rows, currency, more } = dealsOfTile(context, viewpoint, settings);
		return { title, opens: { path: "/deals", more }, node: <DealsTile {...shownDeals(rows)} currency={currency} /> };
	},
});
