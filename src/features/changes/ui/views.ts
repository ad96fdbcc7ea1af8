/** Ways of looking at the same two days. */
export const CHANGES_VIEWS = [
	{ key: "bridge", words: "Bridge" },
	{ key: "deals", words: "Deal by deal" },
	{ key: "trend", words: "Trend" },
	{ key: "flow", words: "Stage flow" },
	{ key: "river", words: "River" },
] as const;
export type ChangesKey = (typeof CHANGES_VIEWS)[number]["key"];
