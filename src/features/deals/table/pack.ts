import { derived } from "@/core/derive";
import { type PackedRows, packRows, unpackRows } from "@/formats/rowPack";
import type { DealsView } from "../server/readDeals";
import type { DealRow } from "./row";

/** rows up to which each flag comes with its reason; of more, nobody reads the tooltips of all */
const WITH_REASONS = 2000;

const writtenBare = derived("deal packed bare", (row: DealRow) =>
	JSON.stringify(Object.values({ ...row, flags: row.flags.map((flag) => ({ ...flag, reason: "" })) })),
);

/** A view of deals as one text. Of many rows the flags come without their reasons. */
export function packDeals({ rows, ...rest }: DealsView): string {
	return `{"packed":${rows.length > WITH_REASONS ? packRows(rows, writtenBare) : packRows(rows)},${JSON.stringify(rest).slice(1)}`;
}

/** The view of a packed text. */
export function unpackDeals(text: string): DealsView {
	const { packed, ...rest } = JSON.parse(text) as Omit<DealsView, "rows"> & { packed: PackedRows };
	return { ...rest, rows: unpackRows<DealRow>(packed) };
}
