import { column } from "./column";

export const territory = column({
	key: "territory",
	label: "Territory",
	kind: "text",
	value: (row) => row.territory,
	width: "6.2rem",
	grouping: { key: "territory", label: "territory", value: (row) => row.territory ?? "No territory" },
});
