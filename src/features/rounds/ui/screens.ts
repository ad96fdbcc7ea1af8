/** The ways of looking at rounds, as they stand in the address. */
export const ROUND_SCREENS = [
	{ key: "list", words: "Rounds" },
	{ key: "rests", words: "At rest" },
	{ key: "held", words: "How calls came true" },
] as const;
export type RoundsScreenKey = (typeof ROUND_SCREENS)[number]["key"];
