/** The views of what the past says, as they stand in the address. */
export const PATTERN_SCREENS = [
	{ key: "outlook", words: "Outlook" },
	{ key: "foretell", words: "What foretells" },
	{ key: "commits", words: "Commits" },
	{ key: "stages", words: "Time in stage" },
] as const;
export type PatternScreen = (typeof PATTERN_SCREENS)[number]["key"];
