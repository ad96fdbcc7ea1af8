import type { Day } from "../time/day";
import type { Question } from "./score";

/** The questions as they stood from a day on. A change to them makes a new edition, so that old scores stay as they were. */
export interface Edition {
	/** first day on which it counts */
	readonly from: Day;
	readonly questions: readonly Question[];
}

/**
 * The questions seen on a day: those of the newest edition by then, or of the oldest before there was one. Editions oldest first.
 *
 * @example questionsOn([{ from: 0, questions: ["a"] }, { from: 10, questions: ["b"] }], 9) // ["a"]
 */
export function questionsOn(editions: readonly Edition[], seen: Day): readonly Question[] {
	return (editions.findLast((edition) => edition.from <= seen) ?? editions[0])?.questions ?? [];
}
