import { exponentOf } from "@/core/money/currency";
import { currencySign, shortAmount } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { longDay, plural } from "@/core/time/words";
import type { DealRow } from "../server/readDeals";

/** One condition on the deals of a table, as it stands in an address: `amount.from.50000`, `stage.in.Terms|Proposal`. */
export interface Filter {
	readonly field: string;
	readonly op: string;
	readonly value: string;
}

/** What conditions are measured against: the seen day and the currency, and the deals in which a text was found. */
export interface FilterSetting {
	readonly seen: string;
	readonly currency: string;
	/** ids by text; a text that isn't there yet leaves no deal out */
	readonly found: ReadonlyMap<string, ReadonlySet<string>>;
}

type Op = "from" | "to" | "in" | "within" | "over" | "before" | "after" | "is" | "has";

export interface FilterField {
	readonly field: string;
	readonly words: string;
	readonly ops: readonly Op[];
	readonly unit: "amount" | "percent" | "points" | "working days" | "days" | "times" | "day" | "choice" | "text";
	number?(row: DealRow): number | null;
	/** the values a deal has of it */
	values?(row: DealRow): readonly (string | null)[];
}

const BLANK = "(blank)";
const one = (value: (row: DealRow) => string | null) => (row: DealRow) => [value(row)];
const choice = (field: string, words: string, values: FilterField["values"]): FilterField => ({
	field,
	words,
	ops: ["in"],
	unit: "choice",
	...(values ? { values } : {}),
});

/** Every field and figure by which deals can be filtered; the form, the sentence and the check follow from it. */
export const FILTER_FIELDS: readonly FilterField[] = [
	{ field: "amount", words: "amount", ops: ["from", "to"], unit: "amount", number: (row) => (row.amountBlank ? null : row.amount) },
	{ field: "probability", words: "chance", ops: ["from", "to"], unit: "percent", number: (row) => Math.round(row.probability * 100) },
	{ field: "runway", words: "closing", ops: ["within", "over"], unit: "working days", number: (row) => row.runway },
	{ field: "close", words: "close date", ops: ["before", "after"], unit: "day", values: one((row) => row.close) },
	{ field: "lastTouch", words: "last contact", ops: ["over", "within"], unit: "days" },
	{ field: "attention", words: "attention", ops: ["from", "to"], unit: "points", number: (row) => row.score },
	{ field: "strength", words: "strength", ops: ["to", "from"], unit: "points", number: (row) => row.strength },
	{ field: "coverage", words: "coverage", ops: ["to", "from"], unit: "points", number: (row) => row.coverage },
	{ field: "gaps", words: "evidence gaps", ops: ["from", "to"], unit: "times", number: (row) => row.gaps },
	{ field: "pushes", words: "pushes", ops: ["from", "to"], unit: "times", number: (row) => row.pushes },
	{ field: "stageAge", words: "time in stage", ops: ["from", "to"], unit: "working days", number: (row) => row.stageAge },
	{ field: "dealAge", words: "deal age", ops: ["from", "to"], unit: "working days", number: (row) => row.dealAge },
	choice(
		"stage",
		"stage",
		one((row) => row.stage),
	),
	choice(
		"owner",
		"rep",
		one((row) => row.owner),
	),
	choice(
		"category",
		"category",
		one((row) => row.category?.replaceAll("_", " ") ?? null),
	),
	choice(
		"waiting",
		"waiting",
		one((row) => (row.waiting === "they" ? "they wait for us" : row.waiting === "we" ? "we wait for them" : "nobody waits")),
	),
	choice("product", "product", (row) => (row.products.length ? row.products : [null])),
	choice("family", "product family", (row) => (row.families.length ? row.families : [null])),
	choice(
		"territory",
		"territory",
		one((row) => row.territory),
	),
	choice(
		"industry",
		"industry",
		one((row) => row.industry),
	),
	choice(
		"source",
		"source",
		one((row) => row.source),
	),
	choice(
		"competitor",
		"competitor",
		one((row) => row.competitor),
	),
	choice(
		"customer",
		"customer or prospect",
		one((row) => row.customer),
	),
	choice("tag", "tag", (row) => (row.tags.length ? row.tags : [null])),
	{ field: "text", words: "text in notes and activities", ops: ["has"], unit: "text" },
];

export const filterField = (name: string): FilterField | undefined => FILTER_FIELDS.find((f) => f.field === name);

/** Reads a condition of an address; null when it can't be one. */
export function readFilter(text: string): Filter | null {
	const [name = "", op = "", ...rest] = text.split(".");
	const value = rest.join(".");
	const found = filterField(name);
	if (!found?.ops.includes(op as Op) || !value) return null;
	const numeric = found.unit !== "choice" && found.unit !== "text" && found.unit !== "day";
	if (numeric && !(Number.isFinite(Number(value)) && value.trim() !== "")) return null;
	if (found.unit === "day" && parseDay(value) === null) return null;
	return { field: name, op, value };
}

export const writeFilter = ({ field, op, value }: Filter): string => `${field}.${op}.${value}`;

/** Whether a deal meets a condition. A deal without the figure doesn't, but one never spoken to was last spoken to long ago. */
export function meets(row: DealRow, filter: Filter, setting: FilterSetting): boolean {
	const found = filterField(filter.field);
	if (!found) return true;
	if (found.unit === "text") return setting.found.get(filter.value)?.has(row.id) ?? true;
	if (found.unit === "choice") {
		const wanted = new Set(filter.value.split("|"));
		return (found.values?.(row) ?? []).some((value) => wanted.has(value ?? BLANK));
	}
	if (found.unit === "day") {
		const day = found.values?.(row)[0];
		return day ? (filter.op === "before" ? day < filter.value : day > filter.value) : false;
	}
	const limit = Number(filter.value) * (found.unit === "amount" ? 10 ** (exponentOf(setting.currency) ?? 2) : 1);
	if (filter.field === "lastTouch") {
		const days = row.lastTouch ? (parseDay(setting.seen) ?? 0) - (parseDay(row.lastTouch) ?? 0) : Number.POSITIVE_INFINITY;
		return filter.op === "over" ? days > limit : days <= limit;
	}
	const value = found.number?.(row) ?? null;
	if (value === null) return false;
	if (filter.field === "runway") return filter.op === "within" ? value >= 0 && value <= limit : value > limit;
	return filter.op === "from" ? value >= limit : value <= limit;
}

/** What the deals offer to choose from, most frequent first. */
export function choicesOf(rows: readonly DealRow[], found: FilterField): { value: string; count: number }[] {
	const counts = new Map<string, number>();
	for (const row of rows) for (const value of found.values?.(row) ?? []) counts.set(value ?? BLANK, (counts.get(value ?? BLANK) ?? 0) + 1);
	return [...counts].map(([value, count]) => ({ value, count })).sort((a, b) => b.count - a.count || (a.value < b.value ? -1 : 1));
}

/** A condition as it reads: `amount from €50k`, `closing in the next 20 working days`. */
export function filterWords({ field, op, value }: Filter, setting: Pick<FilterSetting, "currency">): string {
	const found = filterField(field);
	if (!found) return "";
	if (found.unit === "choice") return `${found.words} ${value.split("|").join(" or ")}`;
	if (found.unit === "text") return `“${value}” in notes or activities`;
	if (found.unit === "day") return `${found.words} ${op} ${longDay(parseDay(value) ?? 0)}`;
	if (field === "runway")
		return op === "within" ? `closing in the next ${plural(Number(value), "working day")}` : `closing later than in ${plural(Number(value), "working day")}`;
	if (field === "lastTouch")
		return op === "over" ? `last contact over ${plural(Number(value), "day")} ago` : `last contact within ${plural(Number(value), "day")}`;
	const amount = () => `${currencySign(setting.currency)}${shortAmount(Number(value) * 10 ** (exponentOf(setting.currency) ?? 2), setting.currency)}`;
	const shown =
		found.unit === "amount" ? amount() : found.unit === "percent" ? `${value}%` : found.unit === "working days" ? plural(Number(value), "working day") : value;
	return `${found.words} ${op === "from" ? "from" : "up to"} ${shown}`;
}
