import { Evidence } from "@/ui/parts/Bars";
import { column } from "./column";

export const evidence = column({
	key: "evidence",
	label: "Evidence",
	means: "evidence",
	kind: "count",
	order: "ascending",
	value: (row) => row.strength - row.expected,
	width: "6rem",
	file: { label: "Strength less expected", columns: ["strength", "evidence"] },
	cell: (row) => (
		<>
			<Evidence strength={row.strength} coverage={row.coverage} expected={row.expected} width={74} />
			<span className="tiny second">
				{row.strength} of {row.expected} expected
			</span>
		</>
	),
});
