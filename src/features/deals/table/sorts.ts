import { columnOf } from "../columns";
import type { DealRow } from "./row";

/** A column to sort by, and which way. */
export interface Sort {
	readonly key: string;
	readonly down: boolean;
}

/** `amount` and `-close` as they stand in an address: a minus turns the column's first way round. */
export function readSort(text: string): Sort | null {
	const turned = text.startsWith("-");
	const found = columnOf(turned ? text.slice(1) : text);
	return found ? { key: found.key, down: (found.order === "descending") !== turned } : null;
}

/** A sort as it stands in the address: `-amount` for the largest first. */
export function writeSort({ key, down }: Sort): string {
	return (columnOf(key)?.order === "descending") === down ? key : `-${key}`;
}

/** A sorted copy: by each sort in turn, blanks last whichever way; equal deals by attention, amount and id. */
export function sortDeals(rows: readonly DealRow[], sorts: readonly Sort[]): DealRow[] {
	const by = sorts.flatMap(({ key, down }) => {
		const found = columnOf(key);
		if (!found) return [];
		return [{ value: found.sort ?? found.value, way: down ? -1 : 1 }];
	});
	return [...rows].sort((a, b) => {
		for (const { value, way } of by) {
			const [x, y] = [value(a), value(b)];
			if (x === y) continue;
			if (x === null) return 1;
			if (y === null) return -1;
			const order = typeof x === "number" && typeof y === "number" ? x - y : String(x).localeCompare(String(y), "en");
			if (order) return order * way;
		}
		return b.score - a.score || b.amount - a.amount || (a.id < b.id ? -1 : 1);
	});
}
