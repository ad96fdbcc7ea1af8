import { column } from "./column";
import { Edit } from "./Edit";

export const nextStep = column({
	key: "nextStep",
	label: "Next step",
	kind: "text",
	value: (row) => row.nextStep,
	width: "minmax(8rem, 1fr)",
	least: 130,
	cell: (row, setting) => (
		<Edit row={row} field="nextStep" setting={setting}>
			<span className="two-lines" title={row.nextStep ?? undefined}>
				{row.nextStep ?? <span className="third">none</span>}
			</span>
		</Edit>
	),
});
