import { CATEGORIES, type Category } from "../../core/history/columns";
import { exponentOf } from "../../core/money/currency";
import { currencySign } from "../../core/money/words";
import type { Problem } from "../bundle/model";
import type { CsvTable } from "../csv";
import { type Columns, mappedTwice, WEEKLY_FIELDS, type WeeklyField } from "./fields";
import { type DateOrder, type DecimalMark, readDate, readMoney } from "./values";

/** How a sender's columns and values are read: said once and remembered. */
export interface WeeklyPlan {
	readonly columns: Columns;
	readonly dates: DateOrder;
	readonly decimal: DecimalMark;
	/** of amounts without a currency of their own */
	readonly currency: string;
	/** their stages by ours; what is missing is asked */
	readonly stages: Readonly<Record<string, string>>;
}

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

/** Reads every row by a plan. Nothing is thrown for bad input: each fault is a problem with its place, and its row is left out. */
export function readWeekly(file: string, table: CsvTable, plan: WeeklyPlan): WeeklyRead {
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
	const unknownStages: Record<string, number> = {};
	if (problems.length) return { rows: [], problems, unknownStages };

	const reader = new RowReader(table.header, plan, say, unknownStages);
	const rows: WeeklyRow[] = [];
	const lines = new Map<string, number>();
	for (const { line, cells } of table.records) {
		if (cells.every((cell) => !cell.trim())) continue;
		const row = reader.read(line, cells);
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
		private readonly say: (line: number, column: string | null, value: string | null, reason: string) => void,
		private readonly unknownStages: Record<string, number>,
	) {
		for (const { key } of WEEKLY_FIELDS) {
			const column = plan.columns[key];
			if (column !== null) this.places[key] = header.indexOf(column);
		}
	}

	read(line: number, cells: readonly string[]): WeeklyRow | null {
		const { plan } = this;
		if (cells.length !== this.header.length) {
			this.say(line, null, cells.join(",").slice(0, 200), `this row has ${cells.length} fields where the header has ${this.header.length}`);
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
			return text ? (readDate(text, plan.dates) ?? bad(key, "this isn't a date in the chosen order")) : null;
		};
		const words = (key: WeeklyField) => (has(key) ? cell(key) || null : undefined);
		const name = cell("name");
		const account = words("account");
		const id = has("id") ? cell("id") : [account, name].filter(Boolean).join(" / ");
		if (!id) bad(has("id") ? "id" : "name", "this row doesn't say which deal it is");
		const stage = this.stageOf(cell("stage"));
		if (!cell("stage")) bad("stage", "the stage is blank");
		else if (stage === null) fine = false;
		const currency = cell("currency").toUpperCase() || plan.currency;
		if (exponentOf(currency) === null) bad("currency", "this isn't a currency's code, such as EUR");
		const foreign = foreignSign(cell("amount"), currency);
		if (foreign) bad("amount", `this amount is in ${foreign}, and the row’s currency is ${currency}; choose the column that holds the currency`);
		const money = cell("amount")
			? (readMoney(cell("amount"), plan.decimal, currency) ?? bad("amount", "this isn't an amount with the chosen decimal mark"))
			: null;
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

	private stageOf(text: string): string | null {
		const known = this.plan.stages[text];
		if (known !== undefined || !text) return known ?? null;
		this.unknownStages[text] = (this.unknownStages[text] ?? 0) + 1;
		return null;
	}
}

/** A sign or code of another currency that stands beside an amount; null where there is none, or where it can't be told. */
function foreignSign(text: string, currency: string): string | null {
	const [sign, own] = [/\p{Sc}/u.exec(text)?.[0], currencySign(currency)];
	if (sign && own.length === 1 && own !== sign) return sign;
	const code = /[A-Za-z]{3}/.exec(text)?.[0]?.toUpperCase();
	return code && code !== currency && exponentOf(code) !== null ? code : null;
}

/** Ours by its name, however it is written; anything else is none. */
function categoryOf(text: string | null): Category | null {
	const name = (text ?? "").toLowerCase().replace(/[^a-z]+/g, "_");
	return CATEGORIES.find((category) => category === name) ?? null;
}
