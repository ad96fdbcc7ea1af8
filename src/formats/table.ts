import { RUNS, writeCsv } from "./csv";

export interface TableColumn {
	readonly words: string;
	readonly kind: "text" | "amount" | "count" | "day" | "percent";
}
export type TableCell = string | number | null;

/** A table as CSV (RFC 4180, UTF-8 with a mark, so that spreadsheets read its letters). */
export function tableCsv(columns: readonly TableColumn[], rows: readonly (readonly TableCell[])[]): Uint8Array {
	const text = writeCsv(
		columns.map((column) => harmless(column.words)),
		rows.map((row) => row.map((cell) => (typeof cell === "number" ? String(cell) : harmless(cell ?? "")))),
	);
	return new TextEncoder().encode(`\uFEFF${text}`);
}

/**
 * A text that a spreadsheet would run as a formula gets an apostrophe in front, and is shown as it is.
 *
 * @example harmless("-5") // "'-5"
 */
export function harmless(text: string): string {
	return RUNS.test(text) ? `'${text}` : text;
}

const FORMATS = { text: "@", amount: "#,##0.00", count: "0", day: "yyyy-mm-dd", percent: '0"%"' } as const;

/** The same as a workbook of one sheet: numbers are numbers, days are days, texts are never formulas. */
export async function tableXlsx(name: string, columns: readonly TableColumn[], rows: readonly (readonly TableCell[])[]): Promise<Uint8Array> {
	// It is long to load, and few ask for it.
	const { default: ExcelJS } = await import("exceljs");
	const book = new ExcelJS.Workbook();
	book.created = new Date(0);
	const sheet = book.addWorksheet(name.replace(/[\\/?*[\]:]/g, " ").slice(0, 31), { views: [{ state: "frozen", ySplit: 1 }] });
	sheet.columns = columns.map((column) => ({ header: column.words, width: column.kind === "text" ? 24 : 14, style: { numFmt: FORMATS[column.kind] } }));
	sheet.getRow(1).font = { bold: true };
	for (const row of rows) {
		sheet.addRow(row.map((cell, i) => (columns[i]?.kind === "day" && typeof cell === "string" ? new Date(`${cell}T00:00:00Z`) : cell)));
	}
	return new Uint8Array(await book.xlsx.writeBuffer());
}
