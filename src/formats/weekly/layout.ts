import type { CsvRecord, CsvTable } from "../csv";
import type { Grid, GridRow } from "../grid";
import { meant } from "./cells";
import { guessColumns, WEEKLY_FIELDS } from "./fields";

/** Where the table begins and ends within a file. */
export interface Layout {
	/** line of the header */
	readonly header: number;
	/** lines below the table that are totals or notes */
	readonly below: readonly number[];
}

/** so many lines from the top a header is looked for */
const LOOKED_AT = 30;
/** a line with so many of our fields' names is a header */
const ENOUGH = 3;

/** The line of the header: the first line that names enough fields, if any of the first does; else the first. */
export function guessHeader(grid: Grid): number {
	const names = (row: GridRow) => Object.values(guessColumns(labels(row.cells), null)).filter((column) => column !== null).length;
	const found = grid.rows.slice(0, LOOKED_AT).find((row) => names(row) >= Math.min(ENOUGH, WEEKLY_FIELDS.length));
	return (found ?? grid.rows[0])?.line ?? 1;
}

/** Names of columns, each once: a second `Amount` is `Amount (2)`. */
export function labels(cells: readonly string[]): string[] {
	const seen = new Map<string, number>();
	return cells.map((cell) => {
		const name = cell.trim().replace(/\s+/g, " ");
		if (!name) return "";
		const times = (seen.get(name) ?? 0) + 1;
		seen.set(name, times);
		return times === 1 ? name : `${name} (${times})`;
	});
}

const TOTAL = /^(grand |sub ?)?(total|totals|sum|summe|gesamt|gesamtsumme|zwischensumme|sous-total|totaux|suma|subtotal|count|anzahl)\b/i;
/** `Ana total`, `Summe Nord` with the word at either end */
const ENDS_TOTAL = /\b(sub ?total|total|summe|gesamt)s?\s*:?$/i;

/** Lines at the end that are no deals: totals, counts, and notes that fill a cell or two of many. */
export function guessBelow(rows: readonly GridRow[], width: number): number[] {
	const below: number[] = [];
	for (let i = rows.length - 1; i > 0; i--) {
		const row = rows[i] as GridRow;
		const filled = row.cells.filter((cell) => cell.trim());
		const note = filled.length <= Math.max(1, Math.floor(width / 4)) && width >= 4;
		const total = filled.some((cell) => TOTAL.test(cell.trim())) && filled.length < width;
		if (filled.length && !note && !total) break;
		below.unshift(row.line);
	}
	return below;
}

/**
 * Lines between deals that are none: subtotals (with or without a deal's number), and headings of groups, which fill one cell.
 *
 * @param needed places of the columns that every deal fills: stage, close date, rep
 */
export function guessBetween(rows: readonly GridRow[], width: number, needed: readonly number[]): number[] {
	return rows.flatMap(({ line, cells }) => {
		const filled = cells.map(meant).filter(Boolean);
		if (!filled.length) return [];
		if (filled.length === 1 && width >= 4) return [line];
		const [first = ""] = filled;
		const total = TOTAL.test(first) || (ENDS_TOTAL.test(first) && filled.length < width);
		return total && needed.some((at) => !meant(cells[at] ?? "")) ? [line] : [];
	});
}

/** The table in a grid by a layout, without what stands above and below it. */
export function tableOf(grid: Grid, header: number, leaveOut: ReadonlySet<number>): CsvTable {
	const at = Math.max(
		0,
		grid.rows.findIndex((row) => row.line === header),
	);
	const names = labels(grid.rows[at]?.cells ?? []);
	while (names.length && !names.at(-1)) names.pop();
	const records = grid.rows.slice(at + 1).flatMap((row): CsvRecord[] => {
		if (leaveOut.has(row.line)) return [];
		const cells = row.cells.map(meant);
		// What is blank beyond the header's last column is nothing.
		while (cells.length > names.length && !cells.at(-1)) cells.pop();
		// What ends before the header does is blank from there on.
		while (cells.length < names.length && cells.some(Boolean)) cells.push("");
		return [{ line: row.line, cells }];
	});
	return { header: names, records };
}
