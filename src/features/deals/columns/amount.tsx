import { change as changed } from "@/ui/format";
import { Amount } from "@/ui/parts/Amount";
import { column } from "./column";
import { Edit } from "./Edit";

export const amount = column({
	key: "amount",
	label: "Amount",
	kind: "amount",
	value: (row) => (row.amountBlank ? null : row.amount),
	width: "5.6rem",
	beside: true,
	cell: (row, setting) => (
		<Edit row={row} field="amount" setting={setting}>
			<span className="d-block">{row.amountBlank ? "blank" : <Amount minor={row.amount} currency={setting.currency} />}</span>
			{row.change === null ? (
				<span className="tiny gained">new</span>
			) : (
				row.change !== 0 && <span className={`tiny ${row.change > 0 ? "gained" : "worse"}`}>{changed(row.change, setting.currency)}</span>
			)}
		</Edit>
	),
});
