/** Screens of which views are kept: where each is, and what it lists. A new one is one line here. */
export const VIEW_PLACES = {
	deals: { path: "/deals", words: "deals" },
	tasks: { path: "/tasks", words: "tasks" },
	accounts: { path: "/accounts", words: "accounts" },
	territories: { path: "/accounts/territories", words: "territories" },
	turns: { path: "/accounts/turns", words: "turns" },
	care: { path: "/accounts/care", words: "accounts without a deal" },
	activities: { path: "/accounts/activities", words: "activities" },
} as const;
export type ViewScreen = keyof typeof VIEW_PLACES;
export const VIEW_SCREENS = Object.keys(VIEW_PLACES) as [ViewScreen, ...ViewScreen[]];
