import { readDeals } from "@/features/deals";
import { filterField } from "@/features/deals/filters";
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
		const status = settings.status === "won" || settings.status === "lost" ? settings.status : "open";
		const { rows, currency } = readDeals(context, viewpoint, status);
		const field = filterField(settings.field ?? "");
		const asked = field && settings.value ? { field: field.field, op: "in", value: settings.value } : null;
		const setting = { seen: "", currency, found: new Map<string, ReadonlySet<string>>() };
		const met = asked && field ? rows.filter((row) => field.meets(row, asked, setting)) : [...rows];
		const order = settings.order ?? "amount";
		met.sort((a, b) => (order === "score" ? b.score - a.score : order === "close" ? ((a.close ?? "9") < (b.close ?? "9") ? -1 : 1) : b.amount - a.amount));
		const said = asked && field ? field.describe(asked, { currency }) : "";
		return {
			title: `${status === "open" ? "Open" : status === "won" ? "Won" : "Lost"} deals${said ? `, ${said}` : ""}`,
			opens: {
				path: "/deals",
				more: { ...(status === "open" ? {} : { status }), ...(asked ? { f: `${asked.field}.in.${asked.value}` } : {}) },
			},
			node: <DealsTile {...shownDeals(met)} currency={currency} />,
		};
	},
});
