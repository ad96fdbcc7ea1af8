import type { DealRow } from "@/usecases/readDeals";

export const SORTS = [
	{ key: "attention", words: "attention" },
	{ key: "amount", words: "amount" },
	{ key: "change", words: "change" },
	{ key: "close", words: "close date" },
	{ key: "stage", words: "days in stage" },
	{ key: "evidence", words: "evidence" },
	{ key: "owner", words: "rep" },
	{ key: "name", words: "deal" },
] as const;
export type SortKey = (typeof SORTS)[number]["key"];

const text = (a: string, b: string) => a.localeCompare(b, "en");
const COMPARE: Record<SortKey, (a: DealRow, b: DealRow) => number> = {
	attention: (a, b) => b.score - a.score || b.amount - a.amount,
	amount: (a, b) => b.amount - a.amount,
	change: (a, b) => Math.abs(b.change ?? 0) - Math.abs(a.change ?? 0),
	close: (a, b) => text(a.close ?? "9999", b.close ?? "9999"),
	stage: (a, b) => b.stageAge - a.stageAge,
	evidence: (a, b) => a.strength - a.expected - (b.strength - b.expected),
	owner: (a, b) => text(a.owner, b.owner) || b.score - a.score,
	name: (a, b) => text(a.name, b.name) || text(a.account, b.account),
};

/** A sorted copy; equal deals keep the order by attention and then id. */
export function sortDeals(rows: readonly DealRow[], key: SortKey): DealRow[] {
	return [...rows].sort((a, b) => COMPARE[key](a, b) || COMPARE.attention(a, b) || (a.id < b.id ? -1 : 1));
}
