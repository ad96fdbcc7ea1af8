import Link from "next/link";
import type { TableColumn } from "./column";

/** The column that names a row by its deal, with the account under it; `of` says which deal. */
export const dealColumn = <Row,>(of: (row: Row) => { readonly id: string; readonly name: string; readonly account: string }): TableColumn<Row> => ({
	key: "deal",
	label: "Deal",
	names: true,
	by: (row) => of(row).name,
	cell: (row) => {
		const { id, name, account } = of(row);
		return (
			<>
				<Link href={`/deals/${encodeURIComponent(id)}`}>{name}</Link>
				<span className="d-block tiny second fw-normal">{account}</span>
			</>
		);
	},
});
