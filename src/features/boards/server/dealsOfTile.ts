import { type DealRow, readDeals } from "@/features/deals";
import { filterField } from "@/features/deals/filters";
import type { Context } from "@/platform/context";
import type { Viewpoint } from "@/platform/viewpoint";

const WORDS = { open: "Open", won: "Won", lost: "Lost" } as const;

/** The deals of a tile that filters and orders for itself; `more` is what the address of Deals needs to show the same. */
export function dealsOfTile(
	context: Context,
	viewpoint: Viewpoint,
	settings: Readonly<Record<string, string>>,
): { title: string; rows: DealRow[]; currency: string; more: Readonly<Record<string, string>> } {
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
		title: `${WORDS[status]} deals${said ? `, ${said}` : ""}`,
		rows: met,
		currency,
		more: { ...(status === "open" ? {} : { status }), ...(asked ? { f: `${asked.field}.in.${asked.value}` } : {}) },
	};
}
