/** The ways of looking at tasks, as they stand in the address and in words. */
export const TASK_SCREENS = [
	{ key: "list", label: "List" },
	{ key: "week", label: "Week" },
	{ key: "month", label: "Month" },
	{ key: "follow", label: "Did it help?" },
] as const;
export type TaskScreen = (typeof TASK_SCREENS)[number]["key"];
