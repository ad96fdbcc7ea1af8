import type { DealRow } from "../server/readDeals";

export const GROUPINGS = [
	{ key: "owner", words: "rep", of: (row: DealRow): string => row.owner },
	{ key: "stage", words: "stage", of: (row: DealRow): string => row.stage },
	{ key: "account", words: "account", of: (row: DealRow): string => row.account },
	{ key: "product", words: "product", of: (row: DealRow): string => row.products[0] ?? "No product" },
	{ key: "territory", words: "territory", of: (row: DealRow): string => row.territory ?? "No territory" },
	{ key: "category", words: "category", of: (row: DealRow): string => row.category?.replaceAll("_", " ") ?? "No category" },
] as const;
export type GroupingKey = (typeof GROUPINGS)[number]["key"];

export interface Group {
	readonly name: string;
	readonly rows: readonly DealRow[];
	/** base minor units */
	readonly amount: number;
	readonly weighted: number;
}

/** Deals in groups, in the order in which they come; each deal is in one group, so that subtotals add up. Stages in their own order, the rest by amount. */
export function groupDeals(rows: readonly DealRow[], key: GroupingKey): Group[] {
	const grouping = GROUPINGS.find((g) => g.key === key);
	const groups = new Map<string, DealRow[]>();
	for (const row of rows) {
		const name = grouping?.of(row) ?? "";
		const list = groups.get(name);
		if (list) list.push(row);
		else groups.set(name, [row]);
	}
	const made = [...groups].map(([name, list]): Group => ({ name, rows: list, ...totals(list) }));
	const rank = (group: Group) => group.rows[0]?.rank ?? 0;
	return made.sort((a, b) => (key === "stage" ? rank(a) - rank(b) : 0) || b.amount - a.amount || (a.name < b.name ? -1 : 1));
}

export function totals(rows: readonly DealRow[]): { amount: number; weighted: number } {
	return rows.reduce((sum, row) => ({ amount: sum.amount + row.amount, weighted: sum.weighted + row.weighted }), { amount: 0, weighted: 0 });
}
