import { keeper } from "@/core/keep";
import type { DealRow, DealsView } from "../server/readDeals";

/** A view of deals as one text: the rows without their fields' names, which would be most of it. */
interface Packed extends Omit<DealsView, "rows"> {
	readonly fields: readonly (keyof DealRow)[];
	readonly rows: readonly (readonly unknown[])[];
}

/** rows up to which each flag comes with its reason; of more, nobody reads the tooltips of all */
const WITH_REASONS = 2000;

/** A row's values as text: rows that a write left alone are written once. */
const written = keeper((row: DealRow) => JSON.stringify(Object.values(row)));
const writtenBare = keeper((row: DealRow) => JSON.stringify(Object.values({ ...row, flags: row.flags.map((flag) => ({ ...flag, reason: "" })) })));

/**
 * Packs a view for the way to the browser: one text goes over many times faster than as many objects. Of many rows the
 * flags come without their reasons.
 */
export function packDeals({ rows, ...rest }: DealsView): string {
	const fields = Object.keys(rows[0] ?? {});
	const text = rows.map(rows.length > WITH_REASONS ? writtenBare : written).join(",");
	return `{"fields":${JSON.stringify(fields)},"rows":[${text}],${JSON.stringify(rest).slice(1)}`;
}

/** The view of a packed text. */
export function unpackDeals(text: string): DealsView {
	const { fields, rows, ...rest } = JSON.parse(text) as Packed;
	return { ...rest, rows: rows.map((values) => Object.fromEntries(fields.map((field, i) => [field, values[i]])) as unknown as DealRow) };
}
