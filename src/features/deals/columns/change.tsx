import { change as changed } from "@/ui/format";
import { column } from "./column";

/** what the amount changed by since the earlier moment */
export const change = column({
	key: "change",
	label: "Change",
	kind: "amount",
	value: (row) => row.change,
	width: "5.2rem",
	cell: (row, { currency }) => (row.change === null ? <span className="third">–</span> : changed(row.change, currency)),
});
