import { type Day, formatDay } from "@/core/time/day";

/** What stands in a column that other programs read. */
export const KINDS = ["text", "integer", "decimal", "day", "instant", "flag"] as const;
export type Kind = (typeof KINDS)[number];

export interface Column {
	/** lower case, words joined by an underscore */
	readonly name: string;
	readonly kind: Kind;
	readonly about: string;
}

/** A text, a number, a day as `Day`, an instant as ms since the epoch, a truth; null where there is nothing. */
export type Value = string | number | boolean | null;

/** The value of a column as text: days and instants by ISO 8601, numbers with a point, `true` and `false`, nothing as nothing. */
export function asText(value: Value, kind: Kind): string {
	if (value === null) return "";
	if (kind === "day") return formatDay(value as Day);
	return kind === "instant" ? new Date(value as number).toISOString() : String(value);
}
