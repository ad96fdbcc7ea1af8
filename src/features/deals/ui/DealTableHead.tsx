"use client";
import { Form } from "react-bootstrap";
import { currencySign } from "@/ui/format";
import { meaning } from "@/ui/terms";
import { columnOf } from "../columns";
import type { Sort } from "../table/sorts";
import type { DealTableProps } from "./dealTableProps";

export function HeadRow({ rows, selected, columns, template, currency, sorts, mayMark, onSort, onMarkAll }: DealTableProps & { readonly template: string }) {
	const all = rows.length > 0 && rows.every((row) => selected.has(row.id));
	return (
		<div className="deal-row deal-head" role="row" aria-rowindex={1} style={{ gridTemplateColumns: template }}>
			<div role="columnheader" className="c-mark">
				{mayMark && (
					<Form.Check
						aria-label="Select all deals shown"
						checked={all}
						onChange={() =>
							onMarkAll(
								rows.map((row) => row.id),
								!all,
							)
						}
						ref={(box: HTMLInputElement | null) => {
							if (box) box.indeterminate = !all && selected.size > 0;
						}}
					/>
				)}
			</div>
			{columns.map((key) => (
				<HeadCell key={key} column={key} currency={currency} sorts={sorts} onSort={onSort} />
			))}
		</div>
	);
}

export function HeadCell({
	column: key,
	currency,
	sorts,
	onSort,
}: {
	column: string;
	currency: string;
	sorts: readonly Sort[];
	onSort: DealTableProps["onSort"];
}) {
	const column = columnOf(key);
	if (!column) return null;
	const place = sorts.findIndex((sort) => sort.key === key);
	const sort = sorts[place] ?? (sorts.length === 0 && key === "attention" ? { key, down: true } : undefined);
	const click = (more: boolean) => {
		const next: Sort = { key, down: sort && place >= 0 ? !sort.down : column.order === "descending" };
		if (!more) return onSort([next]);
		onSort(place >= 0 ? sorts.map((other, i) => (i === place ? next : other)) : [...sorts, next]);
	};
	const words = column.kind === "amount" ? `${column.label} ${currencySign(currency).trim()}` : column.label;
	return (
		<div role="columnheader" className={`c-${key} kind-${column.kind}`} aria-sort={sort ? (sort.down ? "descending" : "ascending") : undefined}>
			<button
				type="button"
				className="plain-button"
				title={[column.means && meaning(column.means), `Sort by ${column.label}; with Shift as a further sort.`].filter(Boolean).join(" ")}
				onClick={(event) => click(event.shiftKey)}
			>
				{words}
				{sort && (
					<span aria-hidden="true">
						{" "}
						{sort.down ? "↓" : "↑"}
						{sorts.length > 1 && <sup>{place + 1}</sup>}
					</span>
				)}
			</button>
		</div>
	);
}
