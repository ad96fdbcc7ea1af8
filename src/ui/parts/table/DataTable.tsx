"use client";
import type { ReactNode } from "react";
import { Form } from "react-bootstrap";
import { ROWS_AT_FIRST, useInBrowser } from "../../inBrowser";
import { Scrolls } from "../Scrolls";
import type { TableColumn, TableSection, TableSort } from "./column";
import { TableHead } from "./TableHead";
import { type Marks, useRows } from "./useRows";

interface Props<Row> {
	/** names the table */
	readonly of: string;
	readonly rows: readonly Row[];
	readonly columns: readonly (TableColumn<Row> | false | null | undefined)[];
	readonly rowKey: (row: Row) => string;
	/** rows in parts, each under its heading, in place of `rows`; they keep their order */
	readonly sections?: readonly TableSection<Row>[];
	/** what is shown where there are no rows */
	readonly empty?: ReactNode;
	/** rows that close the table and aren’t sorted: totals */
	readonly totals?: readonly Row[];
	readonly rowClass?: (row: Row) => string | undefined;
	/** an attribute by which keys and tests find the row */
	readonly rowData?: (row: Row) => Readonly<Record<`data-${string}`, string>>;
	/** rows can be marked, each named by `markWords`, Shift marking all between two */
	readonly marks?: Marks;
	readonly markWords?: (row: Row) => string;
	readonly sorting?: { readonly sort: TableSort | null; readonly onSort: (sort: TableSort | null) => void };
	/** of the frame; a panel of its own unless it says otherwise */
	readonly className?: string;
	readonly tableClass?: string;
}

/** The one table: heads that sort, rows that can be marked, sections, totals, and what stands there without rows. */
export function DataTable<Row extends object>(props: Props<Row>) {
	const { of, rows, rowKey, sections, empty, totals = [], marks, className = "panel p-0", tableClass = "mb-0" } = props;
	const columns = props.columns.filter((column): column is TableColumn<Row> => Boolean(column));
	const table = useRows({ rows: sections ? sections.flatMap((section) => section.rows) : rows, columns, rowKey, marks, sorting: props.sorting });
	const whole = useInBrowser();
	const sorted = table.getRowModel().rows;
	if (!sorted.length && !totals.length && empty !== undefined) return typeof empty === "string" ? <p className="panel second">{empty}</p> : empty;
	const width = columns.length + (marks ? 1 : 0);
	const line = (row: Row, place: number, mark: ReactNode) => (
		<tr key={rowKey(row)} className={props.rowClass?.(row)} {...props.rowData?.(row)}>
			{marks && <td data-of="Mark">{mark}</td>}
			{columns.map((column) => (
				<Cell key={column.key} column={column} row={row} place={place} />
			))}
		</tr>
	);
	const drawn = (whole ? sorted : sorted.slice(0, ROWS_AT_FIRST)).map((row, place) => ({
		id: row.id,
		node: line(
			row.original,
			place,
			marks && <Form.Check aria-label={props.markWords?.(row.original) ?? "Select"} checked={row.getIsSelected()} onChange={row.getToggleSelectedHandler()} />,
		),
	}));
	const byId = new Map(drawn.map(({ id, node }) => [id, node]));
	return (
		<Scrolls of={of} className={className}>
			<table className={`table ${tableClass}`} aria-label={of}>
				<TableHead of={of} table={table} columns={columns} marks={marks !== undefined} sorts={!sections} />
				{sections ? (
					sections.map(({ key, heading, aside, rows: part }) => (
						<tbody key={key}>
							<tr className="table-section">
								<th colSpan={aside === undefined ? width : width - 1} scope="rowgroup">
									{heading}
								</th>
								{aside !== undefined && <th className="num">{aside}</th>}
							</tr>
							{part.map((row) => byId.get(rowKey(row)))}
						</tbody>
					))
				) : (
					<tbody>{drawn.map(({ node }) => node)}</tbody>
				)}
				{totals.length > 0 && <tbody>{totals.map((row, place) => line(row, sorted.length + place, null))}</tbody>}
			</table>
		</Scrolls>
	);
}

function Cell<Row>({ column: { label, num, names, className = "", cell }, row, place }: { column: TableColumn<Row>; row: Row; place: number }) {
	const name = `${num ? "num" : ""} ${className}`.trim() || undefined;
	return names ? (
		<th scope="row" className={name}>
			{cell(row, place)}
		</th>
	) : (
		<td data-of={label} className={name}>
			{cell(row, place)}
		</td>
	);
}
