import { StageBar } from "@/ui/parts/Bars";
import { column } from "./column";
import { Edit } from "./Edit";

/** days that no stage is stood in for: a stage's rank counts for more */
const LONGER_THAN_ANY = 10_000;

export const stage = column({
	key: "stage",
	label: "Stage · days in it",
	kind: "text",
	order: "descending",
	value: (row) => row.stage,
	sort: (row) => row.rank * LONGER_THAN_ANY + row.stageAge,
	width: "6.8rem",
	beside: true,
	file: { label: "Stage", columns: ["stage", "stageAge"] },
	grouping: { key: "stage", label: "stage", value: (row) => row.stage, rank: (row) => row.rank },
	cell: (row, setting) => (
		<Edit row={row} field="stage" setting={setting}>
			<span className="d-block text-truncate">{row.stage}</span>
			<span className="stage-days" hidden={row.closedOn !== null}>
				<StageBar days={row.stageAge} usual={row.usual} limit={row.usualLimit} most={row.usualMost} stage={row.stage} width={66} />
				<span className="tiny second">{row.stageAge} d</span>
			</span>
		</Edit>
	),
});
