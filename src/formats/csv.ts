import { CsvError, parse } from "csv-parse/sync";
import { stringify } from "csv-stringify/sync";

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

/** The delimiter that splits the header line into most parts; a comma when none does. */
function delimiterOf(text: string): string {
	const header = text.slice(0, text.search(/[\r\n]|$/));
	const counts = DELIMITERS.map((delimiter) => header.split(delimiter).length);
	return DELIMITERS[counts.indexOf(Math.max(...counts))] ?? ",";
}

/**
 * Reads CSV (RFC 4180; UTF-8 with or without a mark; comma, `;` or tab). Records may have any number of
 * cells: the caller says what is wrong with them. Throws CsvFault with the line where it can't be read.
 */
export function readCsv(bytes: Uint8Array): CsvTable {
	let text: string;
	try {
		text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
	} catch {
		throw new CsvFault(1, "the file isn't UTF-8 text; save it as CSV UTF-8");
	}
	if (text.includes("\0")) throw new CsvFault(1, "the file holds binary data, not text");
	if (!text.trim()) throw new CsvFault(1, "the file is empty; it needs at least its header row");
	try {
		const rows = parse(text, {
			delimiter: delimiterOf(text),
			relax_column_count: true,
			skip_empty_lines: true,
			info: true,
		}) as unknown as { record: string[]; info: { lines: number } }[];
		const [first, ...rest] = rows;
		let before = first?.info.lines ?? 1;
		const records = rest.map(({ record, info }) => {
			// The parser counts the line a record ends on; people look for the one it starts on.
			const breaks = record.reduce((n, cell) => n + (cell.match(/\r\n|\r|\n/g)?.length ?? 0), 0);
			const line = Math.max(before + 1, info.lines - breaks);
			before = info.lines;
			return { line, cells: record };
		});
		return { header: (first?.record ?? []).map((name) => name.trim()), records };
	} catch (error) {
		if (!(error instanceof CsvError)) throw error;
		const line = typeof error.lines === "number" ? error.lines : 1;
		throw new CsvFault(line, "the quotes here don't match: a quote inside a quoted field is written twice");
	}
}

/**
 * Writes CSV with a comma and CRLF-free lines, header first.
 *
 * @example writeCsv(["id", "name"], [["1", "Rye, dark"]]) // "id,name\n1,\"Rye, dark\"\n"
 */
export function writeCsv(header: readonly string[], rows: Iterable<readonly string[]>): string {
	return stringify([header as string[], ...(rows as Iterable<string[]>)]);
}

const RUNS = /^'*[=+\-@\t\r]/;

/**
 * A cell that a spreadsheet would run as a formula gets an apostrophe before it; `plainText` takes it away again.
 *
 * @example safeText("=1+1") // "'=1+1"
 */
export function safeText(text: string): string {
	return RUNS.test(text) ? `'${text}` : text;
}

export function plainText(cell: string): string {
	return cell.startsWith("'") && RUNS.test(cell) ? cell.slice(1) : cell;
}
