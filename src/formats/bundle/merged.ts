import type { Row, Value } from "./model";
import type { FileSpec } from "./spec";

/**
 * Rows as they read where two entries of one person have become one: the id of the one who went means the one who stays.
 * That one's own row of people.csv is left out, and so is a row that the one who stays has as well (a target of one period).
 * @param merged the id of whoever stays, by the id of whoever went
 */
export function withMergedPeople(spec: FileSpec, rows: readonly Row[], merged: ReadonlyMap<string, string>): readonly Row[] {
	if (!merged.size) return rows;
	if (spec.file === "people.csv") return rows.filter(({ fields }) => !merged.has(String(fields.id)));
	const naming = spec.fields.filter(({ refers }) => refers === "people.csv").map(({ name }) => name);
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
