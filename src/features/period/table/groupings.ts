/** What a period is shown by. */
export const GROUPINGS = [
	{ key: "rep", label: "rep" },
	{ key: "team", label: "team" },
	{ key: "territory", label: "territory" },
	{ key: "family", label: "product family" },
	{ key: "kind", label: "kind of customer" },
] as const;
export type GroupingKey = (typeof GROUPINGS)[number]["key"];
