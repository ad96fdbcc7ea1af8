/** What a walk may decide of a deal. */
export const DECISIONS = ["remedy", "look", "rest"] as const;
export type Decision = (typeof DECISIONS)[number];

export const DECISION_WORDS: Readonly<Record<Decision, string>> = { remedy: "remedy given", look: "looked at", rest: "left to rest" };

/** How the deals of a round lie in its queue. */
export const SORTINGS = ["attention", "amount", "hand"] as const;
export type Sorting = (typeof SORTINGS)[number];
export const SORTING_WORDS: Readonly<Record<Sorting, string>> = { attention: "by attention", amount: "by amount", hand: "by hand" };
