/** What a period is shown by. */
export const GROUPINGS = [
	{ key: "rep", words: "rep" },
	{ key: "team", words: "team" },
	{ key: "territory", words: "territory" },
	{ key: "family", words: "product family" },
	{ key: "kind", words: "kind of customer" },
] as const;
export type GroupingKey = (typeof GROUPINGS)[number]["key"];
