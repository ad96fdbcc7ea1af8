"use client";
import { Form } from "react-bootstrap";
import { meaningOf } from "../../terms";
import type { TableColumn } from "./column";
import type { useRows } from "./useRows";

interface Props<Row extends object> {
	readonly of: string;
	readonly table: ReturnType<typeof useRows<Row>>;
	readonly columns: readonly TableColumn<Row>[];
	readonly marks: boolean;
	/** false where rows stand in sections */
	readonly sorts: boolean;
}

/** The heads of a table: a press sorts by a column, a second the other way, a third as it was. */
export function TableHead<Row extends object>({ of, table, columns, marks, sorts }: Props<Row>) {
	const all = table.getIsAllRowsSelected();
	return (
		<thead>
			<tr>
				{marks && (
					<th>
						<Form.Check
							aria-label={`Select all: ${of}`}
							checked={all}
							onChange={table.getToggleAllRowsSelectedHandler()}
							ref={(box: HTMLInputElement | null) => {
								if (box) box.indeterminate = !all && table.getIsSomeRowsSelected();
							}}
						/>
					</th>
				)}
				{columns.map(({ key, label, silent, num, className = "", by }) => {
					const column = table.getColumn(key);
					const sorted = sorts && by ? column?.getIsSorted() : false;
					const name = `${num ? "num" : ""} ${className}`.trim() || undefined;
					return (
						<th
							key={key}
							scope="col"
							className={name}
							title={meaningOf(label)}
							aria-sort={sorted ? (sorted === "desc" ? "descending" : "ascending") : undefined}
						>
							{silent ? (
								<span className="visually-hidden">{label}</span>
							) : sorts && by ? (
								<button type="button" className="plain-button head-button" onClick={column?.getToggleSortingHandler()}>
									{label}
									{sorted && <span aria-hidden="true">{sorted === "desc" ? " ↓" : " ↑"}</span>}
								</button>
							) : (
								label
							)}
						</th>
					);
				})}
			</tr>
		</thead>
	);
}
