/** How important a task is, the most important first. */
export const IMPORTANCE = ["high", "usual", "low"] as const;
export type Importance = (typeof IMPORTANCE)[number];

export const IMPORTANCE_WORDS: Readonly<Record<Importance, string>> = { high: "important", usual: "as usual", low: "when there is time" };
