import words from "./words.json";

// Made-up names and phrases; none of them is a real company or person. The texts are in words.json.

export interface Family {
	readonly name: string;
	/** weight among new deals, amount range in thousands of euros, and how long its path is against the usual */
	readonly share: number;
	readonly low: number;
	readonly high: number;
	readonly pace: number;
	readonly products: readonly { name: string; price: number }[];
	readonly deals: readonly string[];
}

type Lists = Readonly<Record<string, readonly string[]>>;
/** What is talked about in a stage: to them, from them, together, among us, and the next step. */
type Talk = Readonly<Record<"out" | "in" | "both" | "none" | "next", readonly string[]>>;

export const ACCOUNT_LAST: Lists = words.ACCOUNT_LAST;
export const TITLES: Lists = words.TITLES;
export const ANSWER_NOTES: Lists = words.ANSWER_NOTES;
export const FAMILIES: readonly Family[] = words.FAMILIES;
export const TALK: readonly Talk[] = words.TALK;
export const { ACCOUNT_FIRST, TOWNS, FIRST_NAMES, LAST_NAMES, STAGES, QUESTIONS, COMPETITORS, LOSS_REASONS, SOURCES, PUSH_REASONS, NOTES, DETAILS } = words;
/** What has to happen until the order, and who does it. */
export const PLAN_STEPS = words.PLAN_STEPS as [title: string, side: "ours" | "theirs"][];
