import { column } from "./column";

export const account = column({
	key: "account",
	words: "Account",
	kind: "text",
	value: (row) => row.account,
	width: "minmax(8rem, 1fr)",
	least: 130,
	grouping: { key: "account", words: "account", of: (row) => row.account },
});
