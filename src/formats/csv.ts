import { CsvError, parse } from "csv-parse/sync";
import { stringify } from "csv-stringify/sync";
import { NotText, type ReadText, readText, type TextHints } from "./text";

export interface CsvRecord {
	readonly line: number;
	readonly cells: readonly string[];
}

export interface CsvTable {
	readonly header: readonly string[];
	readonly records: readonly CsvRecord[];
}

/** Why a file can't be read as CSV. */
export class CsvFault extends Error {
	constructor(
		readonly line: number,
		message: string,
	) {
		super(message);
	}
}

const DELIMITERS = [",", ";", "\t"];

/** so much of a text is looked at to find its delimiter */
const LOOKED_AT = { letters: 20_000, lines: 40 };

/** The delimiter by which most lines have as many cells as one another; of several the one that parts the first line most. A comma when none parts any. */
function delimiterOf(text: string): string {
	const head = text
		.slice(0, LOOKED_AT.letters)
		.replace(/"[^"]*"/g, "")
		.split(/\r\n|\r|\n/)
		.filter(Boolean)
		.slice(0, LOOKED_AT.lines);
	const scores = DELIMITERS.map((delimiter) => {
		const counts = head.map((line) => line.split(delimiter).length);
		const alike = (count: number) => counts.filter((one) => one === count).length;
		return { delimiter, alike: Math.max(0, ...counts.filter((count) => count > 1).map(alike)), first: counts[0] ?? 0 };
	});
	const [best] = scores.sort((a, b) => b.alike - a.alike || b.first - a.first);
	return best?.alike ? best.delimiter : ",";
}

/** a first line that only says what parts the cells, as some spreadsheets write it */
const SEPARATOR_LINE = /^\uFEFF?"?sep=(.)"?(\r\n|\r|\n)/i;

export interface CsvBounds {
	readonly rows: number;
	readonly columns: number;
}

/**
 * The records of CSV (RFC 4180; comma, `;` or tab, or what a `sep=` line says; UTF-8, UTF-16 or Windows-1252), each with
 * the line it begins on. They may have any number of cells: the caller says what is wrong with them.
 *
 * @throws CsvFault with the line where it can't be read, or where it has more than the bounds
 */
export function readRecords(bytes: Uint8Array, bounds?: CsvBounds, hints?: TextHints): { rows: CsvRecord[] } & Pick<ReadText, "encoding" | "open"> {
	const { text: whole, encoding, open } = textOf(bytes, hints);
	const separator = SEPARATOR_LINE.exec(whole);
	const bare = separator ? whole.slice(separator[0].length) : whole;
	const delimiter = separator?.[1] ?? delimiterOf(bare);
	const text = withoutFormulaQuotes(bare, delimiter);
	const first = separator ? 1 : 0;
	if (!text.trim()) throw new CsvFault(1, "the file is empty; it needs at least its header row");
	let count = 0;
	let before = 0;
	const line = (record: readonly string[], lines: number) => {
		// The parser counts the line a record ends on; people look for the one it starts on.
		const breaks = record.reduce((n, cell) => n + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
		const start = Math.max(before + 1, lines - breaks);
		before = lines;
		return start + first;
	};
	try {
		const rows = parse(text, {
			delimiter,
			bom: true,
			relax_column_count: true,
			skip_empty_lines: true,
			info: true,
			// What is too much is refused while it is read, not after.
			on_record: ({ record, info }: { record: string[]; info: { lines: number } }) => {
				const at = line(record, info.lines);
				if (bounds && ++count > bounds.rows + 1) throw new CsvFault(at, `the file has more than ${bounds.rows.toLocaleString("en")} rows; split it`);
				if (bounds && record.length > bounds.columns) throw new CsvFault(at, `this row has ${record.length} columns; at most ${bounds.columns} are allowed`);
				return { line: at, cells: record };
			},
		} as never) as unknown as CsvRecord[];
		return { rows, encoding, open };
	} catch (error) {
		if (!(error instanceof CsvError)) throw error;
		const at = typeof error.lines === "number" ? error.lines + first : 1;
		throw new CsvFault(at, "the quotes here don’t match: a quote inside a quoted field is written twice");
	}
}

/** `="0042"`, by which spreadsheets keep digits as text, is a quoted cell: as it stands its quotes would begin in the midst of one. */
function withoutFormulaQuotes(text: string, delimiter: string): string {
	if (!text.includes(`="`)) return text;
	const sign = delimiter.replace(/[\\^$.*+?()[\]{}|]/g, "\\$&");
	// What stands within a quoted cell is its text, however it looks.
	const begins = `(?:^|${sign}|[\r\n])`;
	const cells = new RegExp(`${begins}"(?:[^"]|"")*"|(${begins})="([^"\r\n]*)"(?=${sign}|[\r\n]|$)`, "g");
	return text.replace(cells, (whole: string, before: string | undefined, digits: string) => (before === undefined ? whole : `${before}"${digits}"`));
}

function textOf(bytes: Uint8Array, hints?: TextHints): ReadText {
	try {
		return readText(bytes, hints);
	} catch (error) {
		if (!(error instanceof NotText)) throw error;
		throw new CsvFault(1, error.message);
	}
}

/**
 * Reads CSV with its header row (`readRecords`).
 *
 * @throws CsvFault with the line where it can't be read
 */
export function readCsv(bytes: Uint8Array, bounds?: CsvBounds): CsvTable {
	const [first, ...records] = readRecords(bytes, bounds).rows;
	return { header: (first?.cells ?? []).map((name) => name.trim()), records };
}

/**
 * Writes CSV with a comma and CRLF-free lines, header first.
 *
 * @example writeCsv(["id", "name"], [["1", "Rye, dark"]]) // "id,name\n1,\"Rye, dark\"\n"
 */
export function writeCsv(header: readonly string[], rows: Iterable<readonly string[]>): string {
	return csvLines([header, ...rows]);
}

/** Lines of CSV. */
export function csvLines(rows: readonly (readonly string[])[]): string {
	// Where a spreadsheet parts cells by another sign, quotes keep a cell together.
	return stringify(rows as string[][], { quoted_match: /[;\t|\r\n]/ });
}

/** What a spreadsheet runs: signs it begins a formula with, full-width ones too, after whatever it leaves out before them. */
export const RUNS = /^['\s\u00a0\u200b-\u200f\u2028\u2029\u3000\ufeff]*[=+\-@\uff1d\uff0b\uff0d\uff20\u2212\t\r|]/;

/**
 * A cell that a spreadsheet would run as a formula gets an apostrophe before it; `plainText` takes it away again.
 *
 * @example safeText("=1+1") // "'=1+1"
 */
export function safeText(text: string): string {
	return RUNS.test(text) ? `'${text}` : text;
}

/** A cell without the apostrophe that kept spreadsheets from running it; any other apostrophe stays. */
export function plainText(cell: string): string {
	return cell.startsWith("'") && RUNS.test(cell) ? cell.slice(1) : cell;
}
