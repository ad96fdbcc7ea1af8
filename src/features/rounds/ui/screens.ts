/** The ways of looking at rounds, as they stand in the address. */
export const ROUND_SCREENS = [
	{ key: "list", label: "Rounds" },
	{ key: "rests", label: "At rest" },
	{ key: "held", label: "How calls came true" },
] as const;
export type RoundsScreenKey = (typeof ROUND_SCREENS)[number]["key"];
