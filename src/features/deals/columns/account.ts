import { column } from "./column";

export const account = column({
	key: "account",
	label: "Account",
	kind: "text",
	value: (row) => row.account,
	width: "minmax(8rem, 1fr)",
	least: 130,
	grouping: { key: "account", label: "account", value: (row) => row.account },
});
