import type { Light } from "@/core/attention/attention";
import { Lamp } from "@/ui/parts/Lamp";
import { column } from "./column";

export const attention = column({
	key: "attention",
	label: "Need",
	means: "attention",
	kind: "count",
	value: (row) => row.score,
	width: "2.7rem",
	beside: true,
	file: { label: "Attention" },
	cell: (row) =>
		row.closedOn === null && (
			<span className="c-lamp" title={`Attention ${row.score} of 100: ${row.level}`}>
				<Lamp level={row.level as Light} />
				<span className="tiny second">{row.score}</span>
			</span>
		),
});
