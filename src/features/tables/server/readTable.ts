import { formatDay } from "@/core/time/day";
import { asText, type Value } from "@/formats/columns";
import { csvLines, safeText } from "@/formats/csv";
import { parquetOf } from "@/formats/parquet";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { dayAsked } from "@/platform/days";
import { notFound } from "@/platform/fault";
import { noteExport } from "@/platform/noteExport";
import { scopeOf } from "@/platform/reach";
import { TABLES } from "./list";
import type { Asked, OutsideTable, Row } from "./table";

export const FORMS = ["csv", "parquet"] as const;
export type Form = (typeof FORMS)[number];
export const TYPES: Readonly<Record<Form, string>> = { csv: "text/csv; charset=utf-8", parquet: "application/vnd.apache.parquet" };

/** The tables there are, with their columns. */
export const listTables = query("tables.list", "readTables", (_: Context) =>
	TABLES.map(({ name, about, columns }) => ({ name, about, columns: [...columns] })),
);

/**
 * A table as a file that is made while it is sent, as seen on a day; of deals that the caller reaches. That it was taken stands
 * in the audit.
 *
 * @throws Fault 404 for a table that isn’t there
 */
export const readTable = query(
	"tables.read",
	"readTables",
	async (context: Context, name: string, asked: { as: Form; as_of?: string | undefined; team?: string | undefined; owner?: string | undefined }) => {
		const table = TABLES.find((one) => one.name === name);
		if (!table) throw notFound("table", name);
		const day = dayAsked(context, "as_of", asked.as_of);
		const { organisation, now } = context;
		const of: Asked = { organisation, now, day, scope: scopeOf(context, asked.team, asked.owner) };
		const seen = formatDay(day);
		await noteExport(context, { table: name, seen, form: asked.as });
		const parts = table.parts(of);
		return { name: `${name} ${seen}.${asked.as}`, bytes: asked.as === "csv" ? csvOf(table, parts) : parquetOf(table.columns, parts) };
	},
);

/** CSV of RFC 4180 in UTF-8; a text that a spreadsheet would run gets an apostrophe before it, as in the bundle. */
async function* csvOf({ columns }: OutsideTable, parts: AsyncIterable<readonly Row[]>): AsyncGenerator<Uint8Array> {
	const encoder = new TextEncoder();
	const text = (value: Value, i: number) => (typeof value === "string" ? safeText(value) : asText(value, columns[i]?.kind ?? "text"));
	yield encoder.encode(csvLines([columns.map(({ name }) => name)]));
	for await (const rows of parts) {
		if (rows.length) yield encoder.encode(csvLines(rows.map((row) => row.map(text))));
		// Others have their turn between two parts.
		await new Promise((resolve) => setImmediate(resolve));
	}
}
