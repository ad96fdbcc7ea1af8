import { CsvFault, readRecords } from "./csv";
import type { ReadText, TextHints } from "./text";

/** The cells of a file as they stand, before anything is made of them. */
export interface Grid {
	readonly rows: readonly GridRow[];
	/** of a workbook; none for text */
	readonly sheets: readonly string[];
	/** the sheet that was read */
	readonly sheet: string | null;
	/** in what the text is written, or that it is a workbook */
	readonly written: string;
	/** encodings that the text may be in just as well */
	readonly open: ReadText["open"];
}

export interface GridRow {
	/** as an editor or a spreadsheet numbers it, from 1 */
	readonly line: number;
	readonly cells: readonly string[];
}

/** bounds of what is read: a weekly export has a line a deal */
export const MOST_ROWS = 100_000;
export const MOST_COLUMNS = 500;
const MOST_WORKBOOK = 16 * 2 ** 20;

const isZip = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;
const isOldWorkbook = (bytes: Uint8Array) => bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11 && bytes[3] === 0xe0;

/**
 * Reads a table by looking at its content: text with comma, semicolon or tab in any encoding of `readText`, or a
 * workbook (.xlsx), of which one sheet is read.
 *
 * @throws CsvFault with the line where it can't be read
 */
export async function readGrid(bytes: Uint8Array, sheet: string | null = null, hints: TextHints = {}): Promise<Grid> {
	if (isOldWorkbook(bytes)) throw new CsvFault(1, "this is a workbook of the old kind (.xls); save it as .xlsx or CSV");
	const grid = isZip(bytes) ? await readWorkbook(bytes, sheet) : readText(bytes, hints);
	if (grid.rows.length > MOST_ROWS) throw new CsvFault(MOST_ROWS, `the file has ${grid.rows.length} rows; at most ${MOST_ROWS} are allowed`);
	const wide = grid.rows.find((row) => row.cells.length > MOST_COLUMNS);
	if (wide) throw new CsvFault(wide.line, `this row has ${wide.cells.length} columns; at most ${MOST_COLUMNS} are allowed`);
	return grid;
}

function readText(bytes: Uint8Array, hints: TextHints): Grid {
	const { rows, encoding, open } = readRecords(bytes, undefined, hints);
	return { rows, sheets: [], sheet: null, written: encoding, open };
}

async function readWorkbook(bytes: Uint8Array, sheet: string | null): Promise<Grid> {
	if (bytes.length > MOST_WORKBOOK)
		throw new CsvFault(
			1,
			`the workbook has ${Math.round(bytes.length / 2 ** 20)} MB; at most ${MOST_WORKBOOK / 2 ** 20} MB are allowed. Save the sheet as CSV`,
		);
	// It is long to load, and few send one.
	const { default: ExcelJS } = await import("exceljs");
	const book = new ExcelJS.Workbook();
	try {
		await book.xlsx.load(bytes.slice().buffer as never, { ignoreNodes: ["dataValidations", "conditionalFormatting", "drawing", "hyperlinks"] });
	} catch {
		throw new CsvFault(1, "this looks like a workbook, but can’t be opened; save it as .xlsx or CSV once more");
	}
	const sheets = book.worksheets.filter((one) => one.state !== "veryHidden");
	const chosen = sheets.find((one) => one.name === sheet) ?? sheets.find((one) => one.actualRowCount > 1) ?? sheets[0];
	if (!chosen) throw new CsvFault(1, "the workbook has no sheet");
	const rows: GridRow[] = [];
	chosen.eachRow({ includeEmpty: false }, (row, line) => {
		if (rows.length > MOST_ROWS) return;
		const cells: string[] = [];
		const width = Math.min(row.cellCount, MOST_COLUMNS + 1);
		for (let i = 1; i <= width; i++) cells.push(cellText(row.getCell(i).value));
		while (cells.length && !cells.at(-1)) cells.pop();
		if (cells.length) rows.push({ line, cells });
	});
	const width = Math.max(0, ...rows.map((row) => row.cells.length));
	return {
		// Rows of a sheet are as wide as what stands in them.
		rows: rows.map(({ line, cells }) => ({ line, cells: [...cells, ...Array<string>(width - cells.length).fill("")] })),
		sheets: sheets.map((one) => one.name),
		sheet: chosen.name,
		written: "workbook",
		open: [],
	};
}

/** What a cell shows: days as ISO days, numbers with a point and never with three decimals, which could be read as thousands. */
function cellText(value: unknown): string {
	if (value === null || value === undefined) return "";
	if (value instanceof Date) return Number.isNaN(value.getTime()) ? "" : value.toISOString().slice(0, 10);
	if (typeof value === "number") {
		const text = Number.isInteger(value) ? String(value) : String(Number(value.toFixed(6)));
		return /\.\d{3}$/.test(text) ? `${text}0` : text;
	}
	if (typeof value === "object") {
		const { result, richText, text, error } = value as { result?: unknown; richText?: { text: string }[]; text?: unknown; error?: unknown };
		// `#DIV/0!` is no blank: it is named where it stands.
		if (typeof error === "string") return error;
		if (richText) return richText.map((part) => part.text).join("");
		if (text !== undefined) return cellText(text);
		return "result" in value ? cellText(result) : "";
	}
	return String(value);
}
