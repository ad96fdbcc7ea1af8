import { CATEGORIES, type Category, OTHER_CATEGORY_WORDS } from "../../core/history/columns";
import { exponentOf } from "../../core/money/currency";
import type { Zone } from "../../core/time/zone";
import type { Problem } from "../bundle/model";
import type { CsvTable } from "../csv";
import { type DateOrder, readDate } from "./dates";
import { type Columns, mappedTwice, WEEKLY_FIELDS, type WeeklyField } from "./fields";
import { type DecimalMark, foreignSign, MONEY_FAULTS, readMoney } from "./money";

/** How a sender's columns and values are read. What of it is about one file alone isn't remembered for the next. */
export interface WeeklyPlan {
	readonly columns: Columns;
	readonly dates: DateOrder;
	/** read anew from every file's own amounts */
	readonly decimal: DecimalMark;
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
	/** lines below the table that look like totals or notes are left out */
	readonly leaveBelow: boolean;
	/** the person a name of theirs means, by id, where it isn't clear by itself; NEW_PERSON: somebody who isn't known yet */
	readonly people: Readonly<Record<string, string>>;
}

export const NEW_PERSON = "+";
/** What of a plan the next file of the same part begins with. */
export const remembered = ({ columns, dates, currency, stages, covers, people }: WeeklyPlan) => ({ columns, dates, currency, stages, covers, people });
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
	breathe: (row: number) => Promise<void> = async () => undefined,
): Promise<WeeklyRead> {
	const problems: Problem[] = [];
	const say = (line: number | null, column: string | null, value: string | null, reason: string) =>
		problems.push({ file, line, column, value: value?.slice(0, 200) ?? null, reason });
	const twice = mappedTwice(plan.columns);
	if (twice) say(1, twice.column, null, `this column is taken for ${twice.fields.join(" and for ")}; each column can be only one of them`);
	for (const { key, words, needed } of WEEKLY_FIELDS) {
		const column = plan.columns[key];
		if (needed && column === null) say(1, null, null, `no column is taken for ${words}; choose the one that holds it`);
		if (column !== null && !table.header.includes(column)) say(1, column, null, `the file has no such column; choose another one for ${words}`);
	}
	const unknownStages: Record<string, number> = Object.create(null);
	if (problems.length) return { rows: [], problems, unknownStages };

	const reader = new RowReader(table.header, plan, zone, say, unknownStages);
	const rows: WeeklyRow[] = [];
	const lines = new Map<string, number>();
	for (const [i, { line, cells }] of table.records.entries()) {
		await breathe(i);
		if (cells.every((cell) => !cell.trim())) continue;
		const row = reader.read(line, cells, dealIdOf(table, plan.columns, i));
		if (!row) continue;
		const first = lines.get(row.id);
		if (first !== undefined) say(line, plan.columns.id, row.id, `this deal is in line ${first} already; a file has a line a deal`);
		else {
			lines.set(row.id, line);
			rows.push(row);
		}
	}
	if (!table.records.length) say(1, null, null, "the file has no rows under its header");
	return { rows, problems, unknownStages };
}

class RowReader {
	private readonly places: Partial<Record<WeeklyField, number>> = {};

	constructor(
		private readonly header: readonly string[],
		private readonly plan: WeeklyPlan,
		private readonly zone: Zone,
		private readonly say: (line: number, column: string | null, value: string | null, reason: string) => void,
		private readonly unknownStages: Record<string, number>,
	) {
		for (const { key } of WEEKLY_FIELDS) {
			const column = plan.columns[key];
			if (column !== null) this.places[key] = header.indexOf(column);
		}
	}

	read(line: number, cells: readonly string[], id: string): WeeklyRow | null {
		const { plan } = this;
		if (cells.length !== this.header.length) {
			this.say(line, null, cells.join(",").slice(0, 200), `this row doesn’t have as many cells as the header, which has ${this.header.length}`);
			return null;
		}
		const cell = (key: WeeklyField) => cells[this.places[key] ?? -1]?.trim().slice(0, LONGEST) ?? "";
		const has = (key: WeeklyField) => this.places[key] !== undefined;
		let fine = true;
		const bad = (key: WeeklyField, reason: string) => {
			fine = false;
			this.say(line, plan.columns[key], cell(key), reason);
			return null;
		};
		const date = (key: WeeklyField) => {
			const text = cell(key);
			return text ? (readDate(text, plan.dates, this.zone) ?? bad(key, `this can’t be read as a date; chosen is ${DATE_FORMS[plan.dates]}`)) : null;
		};
		const words = (key: WeeklyField) => (has(key) ? cell(key) || null : undefined);
		const name = cell("name");
		const account = words("account");
		if (!id) bad(has("id") ? "id" : "name", "this row doesn't say which deal it is");
		const stage = this.stageOf(cell("stage"));
		if (!cell("stage")) bad("stage", "the stage is blank");
		else if (stage === null) fine = false;
		const currency = cell("currency").toUpperCase() || plan.currency;
		if (exponentOf(currency) === null) bad("currency", "this isn't a currency's code, such as EUR");
		const foreign = foreignSign(cell("amount"), currency);
		if (foreign) bad("amount", `this amount is in ${foreign}, and the row’s currency is ${currency}; choose the column that holds the currency`);
		const money = this.amountOf(cell("amount"), currency, (reason) => bad("amount", reason));
		const category = words("category");
		const row: WeeklyRow = {
			line,
			id,
			name,
			stage: stage ?? "",
			amount: money,
			currency: money === null ? null : currency,
			closeDate: date("closeDate"),
			owner: cell("owner") || null,
			...(account === undefined ? {} : { account }),
			...(category === undefined ? {} : { category: categoryOf(category) }),
			...(has("nextStep") ? { nextStep: words("nextStep") ?? null } : {}),
			...(has("nextStepDate") ? { nextStepDate: date("nextStepDate") } : {}),
			...(has("source") ? { source: words("source") ?? null } : {}),
			...(has("created") ? { created: date("created") } : {}),
		};
		return fine ? row : null;
	}

	private amountOf(text: string, currency: string, bad: (reason: string) => null): number | null {
		if (!text || exponentOf(currency) === null) return null;
		const read = readMoney(text, this.plan.decimal, currency);
		if (typeof read === "number") return read;
		const forms = this.plan.decimal === "." ? "1,234.50, 1234.5, 1.2M, 450k, (500)" : "1.234,50, 1234,5, 1,2 Mio., 450k, (500)";
		return bad(`${MONEY_FAULTS[read]}; an amount is written like ${forms}`);
	}

	private stageOf(text: string): string | null {
		const known = Object.hasOwn(this.plan.stages, text) ? this.plan.stages[text] : undefined;
		if (known !== undefined || !text) return known ?? null;
		this.unknownStages[text] = (this.unknownStages[text] ?? 0) + 1;
		return null;
	}
}

/** Ours by its name, however it is written; anything else is none. */
function categoryOf(text: string | null): Category | null {
	const name = (text ?? "").toLowerCase().replace(/[^a-z]+/g, "_");
	return CATEGORIES.find((category) => category === name) ?? (Object.hasOwn(OTHER_CATEGORY_WORDS, name) ? OTHER_CATEGORY_WORDS[name] : undefined) ?? null;
}
