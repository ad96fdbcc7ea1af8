import type { ReactNode } from "react";
import { fieldOf } from "@/core/deal/fields";
import type { FieldKey } from "@/core/deal/state";
import type { DealRow } from "../table/row";
import type { CellSetting } from "./column";

/** Opens the box to change what it shows; where nothing may be changed, only shows it. */
export function Edit({ row, field, setting, children }: { row: DealRow; field: FieldKey; setting: CellSetting; children: ReactNode }) {
	const { onEdit } = setting;
	if (!onEdit) return children;
	return (
		<button
			type="button"
			className="cell-edit"
			title={`Change the ${fieldOf(field).label.toLowerCase()}`}
			onClick={(event) => onEdit(row, field, event.currentTarget)}
		>
			{children}
		</button>
	);
}
