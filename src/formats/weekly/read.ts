import type { Zone } from "../../core/time/zone";
import type { Problem } from "../bundle/model";
import type { CsvTable } from "../csv";
import type { Rated } from "./currencyMarks";
import { type Columns, mappedTwice, WEEKLY_FIELDS } from "./fields";
import type { WeeklyPlan } from "./plan";
import { LONGEST, RowReader, type WeeklyRow } from "./rowReader";

export interface WeeklyRead {
	readonly rows: readonly WeeklyRow[];
	readonly problems: readonly Problem[];
	/** stages of theirs that none of ours is named for, with how many rows have them */
	readonly unknownStages: Readonly<Record<string, number>>;
	/** lines of rows that have a problem, or stand on a stage that isn't known, and aren't among `rows` */
	readonly badLines: ReadonlySet<number>;
	/** deals on several lines whose amounts are added up, and how many lines those are */
	readonly summed: { readonly deals: number; readonly lines: number };
	/** deals on several lines that differ in more than their amount, and in what */
	readonly differing: readonly { readonly id: string; readonly lines: readonly number[]; readonly words: readonly string[] }[];
	/** amounts with more decimals than their currency, as they stand; `thousands`: those that could also be read as thousands */
	readonly rounded: { readonly count: number; readonly thousands: readonly { readonly line: number; readonly text: string }[] };
}

/** The cells of a column, in the order of the rows. */
export function cellsOf(table: CsvTable, column: string | null): string[] {
	const at = column === null ? -1 : table.header.indexOf(column);
	return at < 0 ? [] : table.records.map((record) => record.cells[at] ?? "");
}

/** Which deal the row at a place is about: by its number, or where there is no such column by account and name; empty where it doesn't say. */
export function dealIdOf({ header, records }: CsvTable, columns: Columns, at: number): string {
	const cell = (column: string | null) => (column === null ? "" : (records[at]?.cells[header.indexOf(column)]?.trim().slice(0, LONGEST) ?? ""));
	return columns.id !== null ? cell(columns.id) : [cell(columns.account), cell(columns.name)].filter(Boolean).join(" / ");
}

/**
 * Reads every row by a plan. Nothing is thrown for bad input: each fault is a problem with its place, and its row is left
 * out. `breathe` is called with each row's number and may let others have their turn.
 */
export async function readWeekly(
	file: string,
	table: CsvTable,
	plan: WeeklyPlan,
	zone: Zone,
	{ known = new Set(), breathe = async () => undefined }: { readonly known?: Rated; readonly breathe?: (row: number) => Promise<void> } = {},
): Promise<WeeklyRead> {
	const problems: Problem[] = [];
	const say = (line: number | null, column: string | null, value: string | null, reason: string) =>
		problems.push({ file, line, column, value: value?.slice(0, 200) ?? null, reason });
	const twice = mappedTwice(plan.columns);
	if (twice) say(1, twice.column, null, `this column is used for ${twice.fields.join(" and for ")}; each column can be only one of them`);
	for (const { key, label, needed } of WEEKLY_FIELDS) {
		const column = plan.columns[key];
		if (needed && column === null) say(1, null, null, `no column is chosen for ${label}; choose the one that holds it`);
		if (column !== null && !table.header.includes(column)) say(1, column, null, `the file has no such column; choose another one for ${label}`);
	}
	const unknownStages: Record<string, number> = Object.create(null);
	const nothing = { rows: [], unknownStages, badLines: new Set<number>(), summed: { deals: 0, lines: 0 }, differing: [], rounded: { count: 0, thousands: [] } };
	if (problems.length) return { ...nothing, problems };

	const reader = new RowReader(table.header, plan, { zone, known, say, unknownStages });
	const lines = new Map<string, WeeklyRow[]>();
	const badLines = new Set<number>();
	for (const [i, { line, cells }] of table.records.entries()) {
		await breathe(i);
		if (cells.every((cell) => !cell.trim())) continue;
		const row = reader.read(line, cells, dealIdOf(table, plan.columns, i));
		if (!row) badLines.add(line);
		else lines.set(row.id, [...(lines.get(row.id) ?? []), row]);
	}
	if (!table.records.length) say(1, null, null, "the file has no rows under its header");
	const merged = [...lines.values()].map((list) => mergeLines(list, plan.lines));
	return {
		rows: merged.map(({ row }) => row),
		problems,
		unknownStages,
		badLines,
		summed: { deals: merged.filter(({ lines: n }) => n > 1).length, lines: merged.reduce((sum, { lines: n }) => sum + (n > 1 ? n : 0), 0) },
		differing: merged.flatMap(({ row, differs }, i) =>
			differs.length ? [{ id: row.id, lines: [...lines.values()][i]?.map(({ line }) => line) ?? [], words: differs }] : [],
		),
		rounded: reader.rounded,
	};
}

/** What has to be alike on the lines of a deal for their amounts to be added up. */
const ALIKE = ["name", "account", "stage", "currency", "closeDate", "owner", "category", "nextStep", "nextStepDate", "source", "created"] as const;
const ALIKE_WORDS: Readonly<Record<(typeof ALIKE)[number], string>> = Object.fromEntries(
	WEEKLY_FIELDS.flatMap(({ key, label }) => (key === "id" || key === "amount" ? [] : [[key, label.toLowerCase()]])),
) as Record<(typeof ALIKE)[number], string>;

/**
 * The lines of one deal as one row: their amounts added up, the rest as it stands on all of them, or on the first or last
 * where that was said. `differs` names what isn't alike, as long as nobody said which line counts. Amounts of several
 * currencies are never added up: then the chosen line's counts alone.
 */
export function mergeLines(list: readonly WeeklyRow[], which: "first" | "last" | null): { row: WeeklyRow; lines: number; differs: string[] } {
	const [first] = list as [WeeklyRow, ...WeeklyRow[]];
	if (list.length === 1) return { row: first, lines: 1, differs: [] };
	const differs = ALIKE.filter((key) => list.some((row) => row[key] !== first[key] && !(key === "currency" && row.amount === null)));
	const base = which === "last" ? (list.at(-1) as WeeklyRow) : first;
	const priced = list.filter(({ amount }) => amount !== null);
	const currency = priced[0]?.currency ?? null;
	const amount = priced.length && priced.every((row) => row.currency === currency) ? priced.reduce((sum, row) => sum + (row.amount ?? 0), 0) : null;
	const row = amount === null ? base : { ...base, amount, currency };
	return { row: { ...row, line: first.line }, lines: list.length, differs: which ? [] : differs.map((key) => ALIKE_WORDS[key]) };
}
