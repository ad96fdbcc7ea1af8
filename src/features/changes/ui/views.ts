/** Ways of looking at the same two days. */
export const CHANGES_VIEWS = [
	{ key: "bridge", label: "Bridge" },
	{ key: "deals", label: "Deal by deal" },
	{ key: "trend", label: "Trend" },
	{ key: "flow", label: "Stage flow" },
	{ key: "river", label: "River" },
] as const;
export type ChangesKey = (typeof CHANGES_VIEWS)[number]["key"];
