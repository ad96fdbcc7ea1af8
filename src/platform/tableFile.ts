import { exponentOf } from "@/core/money/currency";
import { formatDay } from "@/core/time/day";
import type { Sheet, TableCell, TableColumn } from "@/formats/table";
import { tableCsv, tableXlsx } from "@/formats/table";
import type { Context } from "./context";
import { noteExport } from "./noteExport";
import type { Viewpoint } from "./viewpoint";

/** A table as a screen shows it: amounts in minor units of `currency`. */
export interface FileContent {
	readonly columns: readonly TableColumn[];
	readonly rows: readonly (readonly TableCell[])[];
	/** of the amounts; they go out in whole units */
	readonly currency: string;
	/** further sheets of a workbook, which formulas of the first may name */
	readonly sheets?: readonly Sheet[];
}

/** A table that can be taken away as a file. */
export interface TableFile {
	/** names it in the address, and begins the file's name */
	readonly key: string;
	/** What it holds; the reads it is made of check the rights. `ask` gives what else stands in the address. */
	readonly read: (context: Context, viewpoint: Viewpoint, ask: (name: string) => string | undefined) => Promise<FileContent> | FileContent;
}

/**
 * Makes a table that can be taken away.
 *
 * @example export const tasksFile = tableFile({ key: "tasks", read: async (context, viewpoint) => ({ columns, rows, currency }) });
 */
export const tableFile = (given: TableFile): TableFile => given;

export const FILE_FORMS = ["csv", "xlsx"] as const;
export type FileForm = (typeof FILE_FORMS)[number];
const TYPES: Readonly<Record<FileForm, string>> = { csv: "text/csv; charset=utf-8", xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet" };

/** A file for whoever asked for it. Its name and its last column say of which day it speaks; that it was taken stands in the audit. */
export async function writeTableFile(
	context: Context,
	viewpoint: Viewpoint,
	{ key, form, content }: { readonly key: string; readonly form: FileForm; readonly content: FileContent },
): Promise<{ name: string; type: string; bytes: Uint8Array }> {
	const seen = formatDay(viewpoint.seen.day);
	await noteExport(context, { table: key, rows: content.rows.length, seen, form });
	return fileOf(content, { key, form, seen });
}

/** A table as a file; `seen` is the day it speaks of, ISO. */
export async function fileOf(
	content: FileContent,
	{ key, form, seen }: { readonly key: string; readonly form: FileForm; readonly seen: string },
): Promise<{ name: string; type: string; bytes: Uint8Array }> {
	const units = 10 ** (exponentOf(content.currency) ?? 2);
	const whole = (list: readonly TableColumn[]) => (row: readonly TableCell[]) =>
		row.map((cell, i) => (list[i]?.kind === "amount" ? inUnits(cell, units) : cell));
	const columns = [...content.columns, { label: "Seen on", kind: "day" as const }];
	const rows = content.rows.map(whole(content.columns)).map((row) => [...row, seen]);
	const sheets = (content.sheets ?? []).map((sheet) => ({ ...sheet, rows: sheet.rows.map(whole(sheet.columns)) }));
	const bytes = form === "csv" ? tableCsv(columns, rows) : await tableXlsx(key, columns, rows, sheets);
	return { name: `${key} ${seen}.${form}`, type: TYPES[form], bytes };
}

function inUnits(cell: TableCell, units: number): TableCell {
	if (typeof cell === "number") return cell / units;
	return typeof cell === "object" && cell !== null ? { ...cell, value: cell.value / units } : cell;
}
