import { RUNS, writeCsv } from "./csv";

export interface TableColumn {
	readonly label: string;
	readonly kind: "text" | "amount" | "count" | "day" | "percent";
}
/** A number that a spreadsheet works out itself; elsewhere its value stands. */
export interface Formula {
	/** without the equals sign, such as `SUM(B2:B9)` */
	readonly formula: string;
	readonly value: number;
}
export type TableCell = string | number | Formula | null;

/** A table of a workbook, by its name. */
export interface Sheet {
	readonly name: string;
	readonly columns: readonly TableColumn[];
	readonly rows: readonly (readonly TableCell[])[];
}

/** A cell as text: what a formula comes to. */
const plain = (cell: TableCell): string =>
	typeof cell === "string" ? harmless(cell) : cell === null ? "" : String(typeof cell === "number" ? cell : cell.value);

/** A table as CSV (RFC 4180, UTF-8 with a mark, so that spreadsheets read its letters). */
export function tableCsv(columns: readonly TableColumn[], rows: readonly (readonly TableCell[])[]): Uint8Array {
	const text = writeCsv(
		columns.map((column) => harmless(column.label)),
		rows.map((row) => row.map(plain)),
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

/** The same as a workbook: numbers are numbers, days are days, texts are never formulas, formulas stay alive. */
export async function tableXlsx(
	name: string,
	columns: readonly TableColumn[],
	rows: readonly (readonly TableCell[])[],
	more: readonly Sheet[] = [],
): Promise<Uint8Array> {
	// It is long to load, and few ask for it.
	const { default: ExcelJS } = await import("exceljs");
	const book = new ExcelJS.Workbook();
	book.created = new Date(0);
	for (const one of [{ name, columns, rows }, ...more]) {
		const sheet = book.addWorksheet(one.name.replace(/[\\/?*[\]:]/g, " ").slice(0, 31), { views: [{ state: "frozen", ySplit: 1 }] });
		sheet.columns = one.columns.map((column) => ({ header: column.label, width: column.kind === "text" ? 24 : 14, style: { numFmt: FORMATS[column.kind] } }));
		sheet.getRow(1).font = { bold: true };
		for (const row of one.rows) sheet.addRow(row.map((cell, i) => cellOf(cell, one.columns[i]?.kind)));
	}
	return new Uint8Array(await book.xlsx.writeBuffer());
}

function cellOf(cell: TableCell, kind: TableColumn["kind"] | undefined) {
	if (typeof cell === "object" && cell !== null) return { formula: cell.formula, result: cell.value };
	return kind === "day" && typeof cell === "string" ? new Date(`${cell}T00:00:00Z`) : cell;
}
