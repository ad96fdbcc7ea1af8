import type { ReactNode } from "react";
import { fullAmount, nearDate } from "@/ui/format";
import { columnOf } from "../columns";
import type { CellSetting, Column } from "../columns/column";
import type { DealRow } from "../table/row";

/** A deal's cell in a column: as the column draws it, or its value written by its kind. */
export function DealCell({ column: key, row, setting }: { column: string; row: DealRow; setting: CellSetting }): ReactNode {
	const column = columnOf(key);
	if (!column) return null;
	return column.cell ? column.cell(row, setting) : <Written column={column} row={row} setting={setting} />;
}

function Written({ column: { kind, value: of }, row, setting: { currency, seen } }: { column: Column; row: DealRow; setting: CellSetting }): ReactNode {
	const value = of(row);
	if (value === null) return <span className="third">–</span>;
	if (kind === "amount") return fullAmount(Number(value), currency);
	if (kind === "day") return nearDate(String(value), seen);
	if (kind === "percent") return `${value}%`;
	return (
		<span className="two-lines" title={String(value)}>
			{value}
		</span>
	);
}
