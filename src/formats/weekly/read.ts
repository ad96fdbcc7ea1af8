import { listed } from "@/core/words/grammar";
import { CATEGORIES, type Category, OTHER_CATEGORY_WORDS } from "../../core/history/columns";
import { exponentOf } from "../../core/money/currency";
import type { Zone } from "../../core/time/zone";
import type { Problem } from "../bundle/model";
import type { CsvTable } from "../csv";
import type { SingleByte } from "../text";
import { errorIn, personIn } from "./cells";
import { meantCurrency, type Rated } from "./currencyMarks";
import { type DateOrder, readDate } from "./dates";
import { type Columns, mappedTwice, WEEKLY_FIELDS, type WeeklyField } from "./fields";
import { currenciesOf, type DecimalMark, MONEY_FAULTS, readMoney } from "./money";
import type { Scale } from "./scale";

/** How a sender's columns and values are read. What of it is about one file alone isn't remembered for the next. */
export interface WeeklyPlan {
	readonly columns: Columns;
	readonly dates: DateOrder;
	/** read anew from every file's own amounts */
	readonly decimal: DecimalMark;
	/** the power of ten that amounts are written in: 3 for thousands */
	readonly scale: Scale;
	/** of amounts without a currency of their own */
	readonly currency: string;
	/** their stages by ours; what is missing is asked */
	readonly stages: Readonly<Record<string, string>>;
	/** a region, team or pipeline that the file is about; empty: all of it. Files of other parts stand beside it */
	readonly covers: string;
	/** of a workbook; null: the first with something in it */
	readonly sheet: string | null;
	/** the line of the header */
	readonly header: number;
	/** lines between and below deals that look like totals, headings of groups or notes are left out */
	readonly leaveBelow: boolean;
	/** of a text in none of the usual encodings: the one it is in; null: as it is guessed */
	readonly encoding: SingleByte | null;
	/** rows that can't be read are left out, and the good ones taken alone */
	readonly goodOnly: boolean;
	/** of a deal on several lines that differ in more than their amount: which line the rest is taken from; null: not said yet */
	readonly lines: "first" | "last" | null;
	/** the rows are added to the file of the same day and part instead of taking its place */
	readonly adds: boolean;
	/** the person a name of theirs means, by id, where it isn't clear by itself; NEW_PERSON: somebody who isn't known yet */
	readonly people: Readonly<Record<string, string>>;
}

export const NEW_PERSON = "+";
/** What of a plan the next file of the same part begins with. */
export const remembered = ({ columns, dates, scale, currency, stages, covers, people }: WeeklyPlan) => ({
	columns,
	dates,
	scale,
	currency,
	stages,
	covers,
	people,
});
export type RememberedPlan = ReturnType<typeof remembered>;

/** How dates are written in an order, for whoever has to choose or to mend one. */
export const DATE_FORMS: Readonly<Record<DateOrder, string>> = {
	ymd: "year, month, day: 2026-11-24, 2026/11/24, 20261124, 2026-11-24T09:30:00Z, 24-Nov-2026",
	dmy: "day, month, year: 24.11.2026, 24/11/26, 24-Nov-26, 24. November 2026",
	mdy: "month, day, year: 11/24/2026, 11-24-26, Nov 24, 2026",
	serial: "a spreadsheet’s count of days: 46350",
};

/** A row of a weekly file, read. Fields without a column are undefined, blank ones null. */
export interface WeeklyRow {
	readonly line: number;
	readonly id: string;
	readonly name: string;
	readonly account?: string | null;
	readonly stage: string;
	readonly amount: number | null;
	readonly currency: string | null;
	readonly closeDate: string | null;
	readonly owner: string | null;
	readonly category?: Category | null;
	readonly nextStep?: string | null;
	readonly nextStepDate?: string | null;
	readonly source?: string | null;
	readonly created?: string | null;
}

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

export const LONGEST = 500;

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
	for (const { key, words, needed } of WEEKLY_FIELDS) {
		const column = plan.columns[key];
		if (needed && column === null) say(1, null, null, `no column is chosen for ${words}; choose the one that holds it`);
		if (column !== null && !table.header.includes(column)) say(1, column, null, `the file has no such column; choose another one for ${words}`);
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
	WEEKLY_FIELDS.flatMap(({ key, words }) => (key === "id" || key === "amount" ? [] : [[key, words.toLowerCase()]])),
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

interface Reading {
	readonly zone: Zone;
	/** currencies that can be put into the base */
	readonly known: Rated;
	readonly say: (line: number, column: string | null, value: string | null, reason: string) => void;
	readonly unknownStages: Record<string, number>;
}

class RowReader {
	private readonly places: Partial<Record<WeeklyField, number>> = {};

	readonly rounded = { count: 0, thousands: [] as { line: number; text: string }[] };

	constructor(
		private readonly header: readonly string[],
		private readonly plan: WeeklyPlan,
		private readonly reading: Reading,
	) {
		for (const { key } of WEEKLY_FIELDS) {
			const column = plan.columns[key];
			if (column !== null) this.places[key] = header.indexOf(column);
		}
	}

	read(line: number, cells: readonly string[], id: string): WeeklyRow | null {
		const { plan } = this;
		if (cells.length > this.header.length) {
			this.reading.say(line, null, cells.join(",").slice(0, 200), `this row has ${cells.length} cells, and the header has ${this.header.length}`);
			return null;
		}
		const cell = (key: WeeklyField) => cells[this.places[key] ?? -1]?.trim().slice(0, LONGEST) ?? "";
		const has = (key: WeeklyField) => this.places[key] !== undefined;
		let fine = true;
		const bad = (key: WeeklyField, reason: string) => {
			fine = false;
			this.reading.say(line, plan.columns[key], cell(key), reason);
			return null;
		};
		const date = (key: WeeklyField) => {
			const text = cell(key);
			return text
				? (readDate(text, plan.dates, this.reading.zone) ?? bad(key, `this can’t be read as a date in the chosen order, ${DATE_FORMS[plan.dates]}`))
				: null;
		};
		const words = (key: WeeklyField) => (has(key) ? cell(key) || null : undefined);
		for (const { key } of WEEKLY_FIELDS) {
			const error = has(key) ? errorIn(cell(key)) : null;
			if (error) bad(key, `the spreadsheet shows an error here (${error}); fix its formula, or clear the cell`);
		}
		if (!fine) return null;
		const name = cell("name");
		const account = words("account");
		if (!id) bad(has("id") ? "id" : "name", "this row doesn’t say which deal it is");
		const stage = this.stageOf(cell("stage"));
		if (!cell("stage")) bad("stage", "the stage is blank");
		else if (stage === null) fine = false;
		const currency = this.currencyOf(cell("amount"), cell("currency").toUpperCase(), bad);
		const money = currency === null ? null : this.amountOf(line, cell("amount"), currency, (reason) => bad("amount", reason));
		const category = words("category");
		const row: WeeklyRow = {
			line,
			id,
			name,
			stage: stage ?? "",
			amount: money,
			currency: money === null ? null : currency,
			closeDate: date("closeDate"),
			owner: personIn(cell("owner")),
			...(account === undefined ? {} : { account }),
			...(category === undefined ? {} : { category: categoryOf(category) }),
			...(has("nextStep") ? { nextStep: words("nextStep") ?? null } : {}),
			...(has("nextStepDate") ? { nextStepDate: date("nextStepDate") } : {}),
			...(has("source") ? { source: words("source") ?? null } : {}),
			...(has("created") ? { created: date("created") } : {}),
		};
		return fine ? row : null;
	}

	/** By the column of currencies, else by what stands beside the amount, else the file's; null where it can't be told. */
	private currencyOf(amount: string, column: string, bad: (key: WeeklyField, reason: string) => null): string | null {
		const { plan, reading } = this;
		if (column && exponentOf(column) === null) return bad("currency", "this isn’t a currency’s code, such as EUR");
		const codes = currenciesOf(amount);
		if (column && codes.length && !codes.includes(column))
			return bad("amount", `this amount is in ${listed(codes, "or")}, and the row’s currency is ${column}; choose the column that holds the currency`);
		const meant = column || meantCurrency(codes, plan.currency, reading.known);
		return meant ?? bad("amount", `this amount may be in ${codes.join(", ")}; write its code, or choose the column that holds the currency`);
	}

	private amountOf(line: number, text: string, currency: string, bad: (reason: string) => null): number | null {
		if (!text || exponentOf(currency) === null) return null;
		const { decimal, scale } = this.plan;
		const read = readMoney(text, decimal, currency, { scale, round: true });
		if (typeof read === "number") {
			if (readMoney(text, decimal, currency, { scale }) === "decimals") {
				this.rounded.count++;
				if (typeof readMoney(text, decimal === "." ? "," : ".", currency, { scale }) === "number") this.rounded.thousands.push({ line, text });
			}
			return read;
		}
		const forms = decimal === "." ? "1,234.50, 1234.5, 1.2M, 450k, (500)" : "1.234,50, 1234,5, 1,2 Mio., 450k, (500)";
		return bad(`${MONEY_FAULTS[read]}; an amount is written like ${forms}`);
	}

	private stageOf(text: string): string | null {
		const known = Object.hasOwn(this.plan.stages, text) ? this.plan.stages[text] : undefined;
		if (known !== undefined || !text) return known ?? null;
		this.reading.unknownStages[text] = (this.reading.unknownStages[text] ?? 0) + 1;
		return null;
	}
}

/** Ours by its name, however it is written; anything else is none. */
function categoryOf(text: string | null): Category | null {
	const name = (text ?? "").toLowerCase().replace(/[^a-z]+/g, "_");
	return CATEGORIES.find((category) => category === name) ?? (Object.hasOwn(OTHER_CATEGORY_WORDS, name) ? OTHER_CATEGORY_WORDS[name] : undefined) ?? null;
}
