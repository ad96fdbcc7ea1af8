import { spaced } from "@/ui/format";
import { column } from "./column";
import { Edit } from "./Edit";

export const category = column({
	key: "category",
	label: "Category",
	kind: "text",
	value: (row) => spaced(row.category) || null,
	grouping: { key: "category", label: "category", value: (row) => spaced(row.category) || "No category" },
	cell: (row, setting) => (
		<Edit row={row} field="category" setting={setting}>
			{spaced(row.category) || <span className="third">none</span>}
		</Edit>
	),
});
