"use client";
import {
	type ColumnDef,
	createSortedRowModel,
	functionalUpdate,
	type RowSelectionState,
	rowSelectionFeature,
	rowSortingFeature,
	type SortingState,
	tableFeatures,
	useTable,
} from "@tanstack/react-table";
import { useState } from "react";
import type { TableColumn, TableSort } from "./column";

const words = new Intl.Collator("en", { numeric: true, sensitivity: "base" });
type Value = string | number | undefined;
const compare = (a: Value, b: Value): number => (typeof a === "number" && typeof b === "number" ? a - b : words.compare(String(a), String(b)));

const FEATURES = tableFeatures({ rowSortingFeature, rowSelectionFeature, sortedRowModel: createSortedRowModel() });

export interface Marks {
	readonly marked: ReadonlySet<string>;
	readonly onMark: (ids: readonly string[], on: boolean) => void;
}

interface Given<Row> {
	readonly rows: readonly Row[];
	readonly columns: readonly TableColumn<Row>[];
	readonly rowKey: (row: Row) => string;
	readonly marks: Marks | undefined;
	/** kept by the screen, in its address; without it, by the table itself */
	readonly sorting: { readonly sort: TableSort | null; readonly onSort: (sort: TableSort | null) => void } | undefined;
}

/** Rows as they are sorted and selected: the one place that knows the table package. */
export function useRows<Row extends object>({ rows, columns, rowKey, marks, sorting }: Given<Row>) {
	const [own, setOwn] = useState<TableSort | null>(null);
	const { sort: asked, onSort } = sorting ?? { sort: own, onSort: setOwn };
	// An address may name a column that isn’t there.
	const sort = columns.some(({ key, by }) => by && key === asked?.key) ? asked : null;
	const selected: RowSelectionState = Object.fromEntries([...(marks?.marked ?? [])].map((id) => [id, true]));
	const defs = columns.map(
		({ key, by, num }): ColumnDef<typeof FEATURES, Row> => ({
			id: key,
			accessorFn: (row) => by?.(row) ?? undefined,
			enableSorting: by !== undefined,
			sortDescFirst: num === true,
			sortUndefined: "last",
			sortFn: (a, b, id) => compare(a.getValue<Value>(id), b.getValue<Value>(id)),
		}),
	);
	return useTable({
		features: FEATURES,
		columns: defs,
		data: rows as Row[],
		getRowId: rowKey,
		state: { sorting: sort ? [{ id: sort.key, desc: sort.down }] : [], rowSelection: selected },
		onSortingChange: (change) => {
			const [first] = functionalUpdate<SortingState>(change, sort ? [{ id: sort.key, desc: sort.down }] : []);
			onSort(first ? { key: first.id, down: first.desc } : null);
		},
		onRowSelectionChange: (change) => {
			const next = functionalUpdate(change, selected);
			const on = Object.keys(next).filter((id) => next[id] && !selected[id]);
			const off = Object.keys(selected).filter((id) => !next[id]);
			if (on.length) marks?.onMark(on, true);
			if (off.length) marks?.onMark(off, false);
		},
	});
}
