import { column } from "./column";
import { Edit } from "./Edit";

export const owner = column({
	key: "owner",
	label: "Rep",
	kind: "text",
	value: (row) => row.owner,
	width: "4.6rem",
	grouping: { key: "owner", label: "rep", value: (row) => row.owner },
	cell: (row, setting) => (
		<Edit row={row} field="ownerId" setting={setting}>
			<span title={row.ownerActive ? row.owner : `${row.owner} is no longer with the company`}>
				{row.ownerShort}
				{!row.ownerActive && <span className="tiny second d-block">{row.ownerId ? "has left" : ""}</span>}
			</span>
		</Edit>
	),
});
