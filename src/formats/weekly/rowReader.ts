import { listed } from "@/core/words/grammar";
import { CATEGORIES, type Category, OTHER_CATEGORY_WORDS } from "../../core/history/columns";
import { exponentOf } from "../../core/money/currency";
import type { Zone } from "../../core/time/zone";
import { errorIn, personIn } from "./cells";
import { meantCurrency, type Rated } from "./currencyMarks";
import { readDate } from "./dates";
import { WEEKLY_FIELDS, type WeeklyField } from "./fields";
import { currenciesOf, MONEY_FAULTS, readMoney } from "./money";
import { DATE_FORMS, type WeeklyPlan } from "./plan";

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

export const LONGEST = 500;

interface Reading {
	readonly zone: Zone;
	/** currencies that can be put into the base */
	readonly known: Rated;
	readonly say: (line: number, column: string | null, value: string | null, reason: string) => void;
	readonly unknownStages: Record<string, number>;
}

export class RowReader {
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
