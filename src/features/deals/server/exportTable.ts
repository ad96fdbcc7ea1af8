import { z } from "zod";
import { exponentOf } from "@/core/money/currency";
import { formatDay } from "@/core/time/day";
import { tableCsv, tableXlsx } from "@/formats/table";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { noteExport } from "@/platform/noteExport";
import type { Viewpoint } from "@/platform/viewpoint";
import { columnOf } from "../columns";
import { STATUSES } from "../table/statuses";
import { readDeals } from "./readDeals";

const tableSchema = z.object({
	form: z.enum(["csv", "xlsx"]),
	status: z.enum(STATUSES).default("open"),
	columns: z.array(z.string().max(40)).min(1).max(60),
	/** the deals shown, in their order */
	ids: z.array(z.string().max(200)).max(200_000),
});

/** A file for whoever asked for it. */
export interface TableFile {
	readonly name: string;
	readonly type: string;
	readonly bytes: Uint8Array;
}

/** What a table shows as a file. Only deals of the viewpoint are in it, whatever ids are asked for. Amounts are in whole units. */
export const exportTable = query("deals.table", "readDeals", async (context: Context, viewpoint: Viewpoint, input: unknown): Promise<TableFile> => {
	const wish = tableSchema.parse(input);
	const view = readDeals(context, viewpoint, wish.status);
	const rows = new Map(view.rows.map((row) => [row.id, row]));
	const keys = wish.columns.flatMap((key) => columnOf(key)?.file?.columns ?? [key]);
	const columns = [...new Set(keys)].flatMap((key) => columnOf(key) ?? []);
	const units = 10 ** (exponentOf(view.currency) ?? 2);
	const seen = formatDay(viewpoint.seen.day);
	// Whoever has the file can find each deal again, and knows of which day it speaks.
	const heads = [
		{ label: "Deal number", kind: "text" as const },
		...columns.map(({ label, kind, file }) => ({ label: file?.label ?? (kind === "amount" ? `${label} ${view.currency}` : label), kind })),
		{ label: "Seen on", kind: "day" as const },
	];
	const cells = wish.ids.flatMap((id) => {
		const row = rows.get(id);
		if (!row) return [];
		return [
			[
				id,
				...columns.map((column) => {
					const value = column.value(row);
					return column.kind === "amount" && typeof value === "number" ? value / units : value;
				}),
				seen,
			],
		];
	});
	await noteExport(context, { table: "deals", rows: cells.length, seen, form: wish.form });
	return wish.form === "csv"
		? { name: `deals ${seen}.csv`, type: "text/csv; charset=utf-8", bytes: tableCsv(heads, cells) }
		: { name: `deals ${seen}.xlsx`, type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", bytes: await tableXlsx("Deals", heads, cells) };
});
