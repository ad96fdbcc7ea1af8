import { shortDate } from "@/ui/format";
import { column } from "./column";

export const name = column({
	key: "name",
	label: "Deal",
	kind: "text",
	value: (row) => row.name,
	width: "minmax(9rem, 1.35fr)",
	least: 150,
	beside: true,
	file: { columns: ["name", "account"] },
	cell: (row, { onOpen, link }) => (
		<>
			<button type="button" className="plain-button deal-name" title={row.name} onClick={() => onOpen(row.id)}>
				{row.name}
			</button>
			<span className="deal-account" title={row.account}>
				{row.status !== "open" && <b className={row.status === "won" ? "gained" : "worse"}>{row.status}, </b>}
				{row.restsTill && <b>rests until {shortDate(row.restsTill)}, </b>}
				{row.accountId === null ? row.account : link(`/accounts/${encodeURIComponent(row.accountId)}`, row.account)}
			</span>
		</>
	),
});
