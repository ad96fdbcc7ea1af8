import { LIGHTS, type Light } from "@/core/attention/attention";
import { derived } from "@/core/derive";
import type { DealsView } from "../server/readDeals";
import { byScore } from "./order";
import type { DealRow } from "./row";

/** Rows up to which each flag comes with its reason; of more, nobody reads the tooltips of all. */
export const WITH_REASONS = 2000;

type Bare = Omit<DealRow, "score" | "level">;

const bareOf = ({ score: _, level: __, ...bare }: DealRow): Bare => bare;
/** A row's values as text, but for score and level: rows that a write left alone are written once. */
const written = derived("deal packed", (row: DealRow, withReasons: boolean): string => {
	const bare = bareOf(row);
	return JSON.stringify(Object.values(withReasons ? bare : { ...bare, flags: row.flags.map((flag) => ({ ...flag, reason: "" })) }));
});

/** The rows of a block as a part of a packed text. */
export const packBlock = (rows: readonly DealRow[], withReasons: boolean): string =>
	rows.length ? `,[${rows.map((row) => written(row, withReasons)).join(",")}]` : "";

/** What stands before the blocks: the names of a row's fields. */
export const packHead = (row: DealRow | undefined): string => `{"fields":${JSON.stringify(row ? Object.keys(bareOf(row)) : [])},"blocks":[[]`;

/** Each row's score and its level by place, as parts of a packed text. */
export const packScores = (attention: readonly { readonly score: number; readonly level: string }[]): string =>
	attention.map(({ score, level }) => `,${score},${LIGHTS.indexOf(level as Light)}`).join("");

/** What stands after the blocks: the scores and levels of all rows, in their order, and the rest of the view. */
export const packTail = (scores: readonly string[], rest: Omit<DealsView, "rows">): string =>
	`],"scores":[0${scores.join("")}],${JSON.stringify(rest).slice(1)}`;

/** A view of deals as one text: it goes over many times faster than as many objects, and most of it would be the names of their fields. */
export function packDeals({ rows, ...rest }: DealsView): string {
	return packHead(rows[0]) + packBlock(rows, rows.length <= WITH_REASONS) + packTail([packScores(rows)], rest);
}

type Packed = Omit<DealsView, "rows"> & {
	readonly fields: readonly string[];
	readonly blocks: readonly (readonly (readonly unknown[])[])[];
	/** nothing, then score and level of each row */
	readonly scores: readonly number[];
};

/** The view of a packed text, its rows in the order of the list. */
export function unpackDeals(text: string): DealsView {
	const { fields, blocks, scores, ...rest } = JSON.parse(text) as Packed;
	const rows = blocks.flat().map((values, at): DealRow => {
		const bare = Object.fromEntries(fields.map((field, i) => [field, values[i]])) as unknown as Bare;
		return { ...bare, score: scores[2 * at + 1] as number, level: LIGHTS[scores[2 * at + 2] as number] as Light };
	});
	return { ...rest, rows: rows.sort(byScore) };
}
