import type { Row, Value } from "./model";
import type { FileSpec } from "./spec";

/** What was merged, by the file that lists it: the id of the one that stays, by the id of the one that went. */
export type Merged = Readonly<Record<"people.csv" | "accounts.csv", ReadonlyMap<string, string>>>;

/** Rows as they read where several people, or several accounts, have become one. */
export const withMerged = (spec: FileSpec, rows: readonly Row[], merged: Merged): readonly Row[] =>
	mergedOf(spec, mergedOf(spec, rows, "people.csv", merged["people.csv"]), "accounts.csv", merged["accounts.csv"]);

/**
 * The id of the one that went means the one that stays. The row of the file itself is left out, and so is a row that the
 * one that stays has as well (a target of one period).
 */
function mergedOf(spec: FileSpec, rows: readonly Row[], file: keyof Merged, merged: ReadonlyMap<string, string>): readonly Row[] {
	if (!merged.size) return rows;
	if (spec.file === file) return rows.filter(({ fields }) => !merged.has(String(fields.id)));
	const naming = spec.fields.filter(({ refers }) => refers === file).map(({ name }) => name);
	if (!naming.length) return rows;
	const meant = (value: Value): Value => {
		if (Array.isArray(value)) return [...new Set(value.map((id) => merged.get(id) ?? id))];
		return typeof value === "string" ? (merged.get(value) ?? value) : value;
	};
	const moved = rows.map((row) => {
		const changed = naming.filter((name) => String(meant(row.fields[name] ?? null)) !== String(row.fields[name] ?? null));
		if (!changed.length) return row;
		return { ...row, fields: { ...row.fields, ...Object.fromEntries(changed.map((name) => [name, meant(row.fields[name] ?? null)])) } };
	});
	if (!spec.key.some((name) => naming.includes(name))) return moved;
	const key = ({ fields }: Row) => spec.key.map((name) => String(fields[name])).join("\u0000");
	const own = new Set(rows.filter((row, i) => row === moved[i]).map(key));
	return moved.filter((row, i) => row === rows[i] || !own.has(key(row)));
}
