import { exponentOf } from "@/core/money/currency";
import { grouped } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { escaped } from "@/core/words/escaped";
import type { TableCell, TableColumn } from "@/formats/table";
import type { FileContent } from "@/platform/tableFile";

/** so many rows are told in a mail; all of them are in the file and on the screen */
export const ROWS_TOLD = 40;
/** a text is cut in a column of plain text after so many letters */
const WIDEST = 28;

const isNumber = ({ kind }: TableColumn) => kind === "amount" || kind === "count" || kind === "percent";

/** A cell as people read it: amounts in whole units with their groups, days as `18 Nov`. */
function cellWords(cell: TableCell, { kind }: TableColumn, currency: string): string {
	const value = typeof cell === "object" && cell !== null ? cell.value : cell;
	if (value === null || value === "") return "";
	if (kind === "amount" && typeof value === "number") return grouped(Math.round(value / 10 ** (exponentOf(currency) ?? 2)));
	if (kind === "percent" && typeof value === "number") return `${Math.round(value)}%`;
	if (kind === "day" && typeof value === "string") return shortDay(parseDay(value) ?? 0);
	return String(value);
}

/** A text as HTML has it. */

/** The first rows of a table, as plain text in columns and as HTML. */
export function tableMail({ columns, rows, currency }: FileContent): { text: string; html: string } {
	const cells = rows.slice(0, ROWS_TOLD).map((row) => columns.map((column, i) => cellWords(row[i] ?? null, column, currency)));
	const cut = (words: string) => (words.length > WIDEST ? `${words.slice(0, WIDEST - 1)}…` : words);
	const widths = columns.map(({ label }, i) => Math.max(cut(label).length, ...cells.map((row) => cut(row[i] ?? "").length)));
	const line = (row: readonly string[]) =>
		row
			.map((words, i) => (isNumber(columns[i] as TableColumn) ? cut(words).padStart(widths[i] ?? 0) : cut(words).padEnd(widths[i] ?? 0)))
			.join("  ")
			.trimEnd();
	const rest = rows.length > ROWS_TOLD ? `and ${rows.length - ROWS_TOLD} more` : "";
	const side = (column: TableColumn) => `text-align:${isNumber(column) ? "right" : "left"};${column.kind === "text" ? "" : "white-space:nowrap;"}`;
	const cell = (tag: "th" | "td", words: string, column: TableColumn) =>
		`<${tag} style="${side(column)}padding:3px 10px 3px 0;border-bottom:1px solid #e6dfd2;vertical-align:top">${escaped(words)}</${tag}>`;
	const html = `<table style="border-collapse:collapse;font-size:13px"><thead><tr>${columns.map((column) => cell("th", column.label, column)).join("")}</tr></thead><tbody>${cells
		.map((row) => `<tr>${row.map((words, i) => cell("td", words, columns[i] as TableColumn)).join("")}</tr>`)
		.join("")}</tbody></table>${rest ? `<p style="color:#5a6275">${rest}</p>` : ""}`;
	return { text: [line(columns.map(({ label }) => label)), ...cells.map(line), rest].filter(Boolean).join("\n"), html };
}
