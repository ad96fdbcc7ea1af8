import { exponentOf } from "@/core/money/currency";
import { currencySign, shortAmount } from "@/core/money/words";
import { parseDay } from "@/core/time/day";
import { longDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import type { DealRow } from "../table/row";

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

export type Op = "from" | "to" | "in" | "within" | "over" | "before" | "after" | "has";
export type Unit = "amount" | "percent" | "points" | "working days" | "days" | "times" | "day" | "choice" | "text";

/** A field or figure by which deals can be filtered: the form, the sentence and the check follow from it. */
export interface FilterField {
	/** names it in the address */
	readonly field: string;
	readonly label: string;
	readonly ops: readonly Op[];
	readonly unit: Unit;
	/** the values a deal has of it, to choose from */
	readonly values?: (row: DealRow) => readonly (string | null)[];
	/** whether a text can be its value */
	readonly reads: (value: string) => boolean;
	/** Whether a deal meets a condition on it. */
	readonly meets: (row: DealRow, asked: Filter, setting: FilterSetting) => boolean;
	/** A condition on it as it reads: `amount from €50k`. */
	readonly describe: (asked: Filter, setting: Pick<FilterSetting, "currency">) => string;
}

const BLANK = "(blank)";
const isNumber = (value: string) => value.trim() !== "" && Number.isFinite(Number(value));

interface Figure {
	readonly field: string;
	readonly label: string;
	readonly unit: Exclude<Unit, "choice" | "text" | "day">;
	readonly ops?: readonly Op[];
	/** null: the deal hasn't got it, and meets no condition on it */
	readonly number: (row: DealRow) => number | null;
}

/**
 * A figure with a least and a greatest value. Amounts are asked in whole units and kept in minor ones.
 *
 * @example figure({ field: "gaps", label: "evidence gaps", unit: "times", number: (row) => row.gaps })
 */
export const figure = ({ field, label, unit, ops = ["from", "to"], number }: Figure): FilterField => ({
	field,
	label,
	unit,
	ops,
	reads: isNumber,
	meets: (row, { op, value }, { currency }) => {
		const has = number(row);
		if (has === null) return false;
		const limit = Number(value) * (unit === "amount" ? 10 ** (exponentOf(currency) ?? 2) : 1);
		return op === "from" ? has >= limit : has <= limit;
	},
	describe: ({ op, value }, { currency }) => `${label} ${op === "from" ? "from" : "up to"} ${written(unit, value, currency)}`,
});

function written(unit: Unit, value: string, currency: string): string {
	if (unit === "amount") return `${currencySign(currency)}${shortAmount(Number(value) * 10 ** (exponentOf(currency) ?? 2), currency)}`;
	return unit === "percent" ? `${value}%` : unit === "working days" ? plural(Number(value), "working day") : value;
}

/**
 * A choice among the values that deals have; one without any has a blank.
 *
 * @example choice("stage", "stage", (row) => [row.stage])
 */
export const choice = (field: string, words: string, values: (row: DealRow) => readonly (string | null)[]): FilterField => {
	const all = (row: DealRow) => {
		const own = values(row);
		return own.length ? own : [null];
	};
	return {
		field,
		label: words,
		unit: "choice",
		ops: ["in"],
		values: all,
		reads: () => true,
		meets: (row, { value }) => {
			const wanted = new Set(value.split("|"));
			return all(row).some((one) => wanted.has(one ?? BLANK));
		},
		describe: ({ value }) => `${words} ${value.split("|").join(" or ")}`,
	};
};

/** A day that lies before or after another; a deal without it meets neither. */
export const dayField = (field: string, words: string, day: (row: DealRow) => string | null): FilterField => ({
	field,
	label: words,
	unit: "day",
	ops: ["before", "after"],
	reads: (value) => parseDay(value) !== null,
	meets: (row, { op, value }) => {
		const has = day(row);
		return has !== null && (op === "before" ? has < value : has > value);
	},
	describe: ({ op, value }) => `${words} ${op} ${longDay(parseDay(value) ?? 0)}`,
});

/** A number of days or times that is met in a way of its own. */
export const countFilter = (given: Omit<FilterField, "reads">): FilterField => ({ ...given, reads: isNumber });

/** What deals offer to choose from, most frequent first. */
export function choicesOf(rows: readonly DealRow[], { values }: FilterField): { value: string; count: number }[] {
	const counts = new Map<string, number>();
	for (const row of rows) for (const value of values?.(row) ?? []) counts.set(value ?? BLANK, (counts.get(value ?? BLANK) ?? 0) + 1);
	return [...counts].map(([value, count]) => ({ value, count })).sort((a, b) => b.count - a.count || (a.value < b.value ? -1 : 1));
}
