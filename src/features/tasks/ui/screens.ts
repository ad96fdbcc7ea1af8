/** The ways of looking at tasks, as they stand in the address and in words. */
export const TASK_SCREENS = [
	{ key: "list", words: "List" },
	{ key: "week", words: "Week" },
	{ key: "month", words: "Month" },
	{ key: "follow", words: "Did it help?" },
] as const;
export type TaskScreen = (typeof TASK_SCREENS)[number]["key"];
