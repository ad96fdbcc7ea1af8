"use client";
import { memo } from "react";
import { Form } from "react-bootstrap";
import { plural } from "@/core/words/grammar";
import { shortMoney } from "@/ui/format";
import { columnOf } from "../columns";
import type { CellSetting } from "../columns/column";
import type { Group } from "../table/groups";
import type { DealRow } from "../table/row";
import { DealCell } from "./DealCell";

export interface GroupLineProps {
	readonly group: Group;
	readonly index: number;
	readonly place: { height: number; transform: string };
	readonly currency: string;
	readonly open: boolean;
	readonly onToggle: () => void;
}

export function GroupLine({ group, index, place, currency, open, onToggle }: GroupLineProps) {
	return (
		<div role="row" aria-rowindex={index + 2} className="deal-group" style={place}>
			<div role="cell">
				<button type="button" className="plain-button" aria-expanded={open} onClick={onToggle}>
					<span aria-hidden="true">{open ? "▾" : "▸"}</span> <b>{group.name}</b>{" "}
					<span className="second">
						{plural(group.rows.length, "deal")} · {shortMoney(group.amount, currency)} open · {shortMoney(group.weighted, currency)} weighted
					</span>
				</button>
			</div>
		</div>
	);
}

export interface LineProps {
	readonly row: DealRow;
	readonly index: number;
	readonly start: number;
	readonly height: number;
	readonly columns: readonly string[];
	readonly template: string;
	readonly setting: CellSetting;
	readonly selected: boolean;
	readonly here: boolean;
	readonly mayMark: boolean;
	readonly narrow: boolean;
	readonly onMark: (id: string) => void;
}

export const DealLine = memo(function DealLine({ row, index, start, height, columns, template, setting, selected, here, mayMark, narrow, onMark }: LineProps) {
	return (
		<div
			role="row"
			aria-rowindex={index + 2}
			aria-selected={selected}
			className={`deal-row deal-line ${here ? "here" : ""} ${row.level}`}
			style={{ height, transform: `translateY(${start}px)`, ...(narrow ? {} : { gridTemplateColumns: template }) }}
			onClick={(event) => {
				if (!(event.target as HTMLElement).closest("button,input,a")) setting.onOpen(row.id);
			}}
		>
			<div role="cell" className="c-mark">
				{mayMark && <Form.Check aria-label={`Select ${row.name}, ${row.account}`} checked={selected} onChange={() => onMark(row.id)} />}
			</div>
			{columns.map((key) => (
				<div key={key} role="cell" className={`c-${key} kind-${columnOf(key)?.kind ?? "text"}`}>
					<DealCell column={key} row={row} setting={setting} />
				</div>
			))}
		</div>
	);
});
