import { account } from "../columns/account";
import { category } from "../columns/category";
import { close } from "../columns/close";
import type { Grouping } from "../columns/column";
import { owner } from "../columns/owner";
import { products } from "../columns/products";
import { stage } from "../columns/stage";
import { territory } from "../columns/territory";
import type { DealRow } from "./row";

/** What deals can be grouped by: columns that say how. A new one is one line here. */
export const GROUPINGS: readonly Grouping[] = [owner, stage, close, account, products, territory, category].flatMap((column) => column.grouping ?? []);

export interface Group {
	readonly name: string;
	readonly rows: readonly DealRow[];
	/** base minor units */
	readonly amount: number;
	readonly weighted: number;
}

/** Deals in groups, in the order in which they come; each deal is in one group, so that subtotals add up. Groups by their rank, where they have one, then by amount. */
export function groupDeals(rows: readonly DealRow[], key: string): Group[] {
	const grouping = GROUPINGS.find((one) => one.key === key);
	const groups = new Map<string, DealRow[]>();
	for (const row of rows) {
		const name = grouping?.value(row) ?? "";
		const list = groups.get(name);
		if (list) list.push(row);
		else groups.set(name, [row]);
	}
	const made = [...groups].map(([name, list]): Group => ({ name, rows: list, ...totals(list) }));
	const rank = ({ rows: [first] }: Group) => (first && grouping?.rank?.(first)) ?? 0;
	return made.sort((a, b) => rank(a) - rank(b) || b.amount - a.amount || (a.name < b.name ? -1 : 1));
}

/** Sums of some deals, base minor units. */
export function totals(rows: readonly DealRow[]): { amount: number; weighted: number } {
	return rows.reduce((sum, row) => ({ amount: sum.amount + row.amount, weighted: sum.weighted + row.weighted }), { amount: 0, weighted: 0 });
}
