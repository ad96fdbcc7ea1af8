import type { Company } from "../company";
import type { Kind, Place } from "./kind";

/** Where deals are dated that aren’t due: after their count, `131 dated later`. */
export const PLACE_WORDS: Readonly<Record<Place, string>> = {
	none: "without a close date",
	before: "dated before the period",
	next: "dated in the month after it",
	later: "dated later",
};

/** What a step of a chance adds to what deals have in common, of deals that are due and of others. */
export const STEP_WORDS: Readonly<Record<"due" | "elsewhere", readonly string[]>> = {
	due: ["any deal due", "in its stage", "and category", "and time in stage", "and level"],
	elsewhere: ["any deal dated elsewhere", "dated like it", "and in its stage", "and of its size"],
};

/** What the deals of a kind have in common in their first values, so many of them: `in Survey`, `commit`, `at watch`. */
export function kindWords({ rules }: Pick<Company, "rules">, { due, values }: Kind, depth: number): string[] {
	const stage = (at: string) => `in ${rules.stages[Number(at)]?.name ?? "its stage"}`;
	const [first = "", second = "", third = "", fourth = ""] = values;
	const all = due
		? [stage(first), second.replaceAll("_", " "), third === "aging" ? "longer than usual in the stage" : "not longer than usual in the stage", `at ${fourth}`]
		: [PLACE_WORDS[first as Place], stage(second), third === "large" ? "above the median amount" : "up to the median amount"];
	return all.slice(0, depth);
}
