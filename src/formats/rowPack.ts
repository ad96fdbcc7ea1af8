import { derived } from "@/core/derive";

/** A row's values as text: rows that a write left alone are written once. */
const written = derived("row packed", (row: object) => JSON.stringify(Object.values(row)));

/**
 * Packs rows of one shape for the way to the browser: one text goes over many times faster than as many objects, and most
 * of it would be the names of their fields. `write` says how a row's values become text.
 */
export function packRows<Row extends object>(rows: readonly Row[], write: (row: Row) => string = written): string {
	return `{"fields":${JSON.stringify(Object.keys(rows[0] ?? {}))},"rows":[${rows.map(write).join(",")}]}`;
}

/** What the text of packed rows is parsed to. */
export interface PackedRows {
	readonly fields: readonly string[];
	readonly rows: readonly (readonly unknown[])[];
}

/** The rows of a packed text, which is parsed already. */
export function unpackRows<Row extends object>({ fields, rows }: PackedRows): Row[] {
	return rows.map((values) => Object.fromEntries(fields.map((field, i) => [field, values[i]])) as Row);
}
