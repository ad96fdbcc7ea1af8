import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** A word that a manager can say on a deal in a round, with all that follows from it. */
export interface CallKind<K extends string = string> {
	readonly key: K;
	/** as its button reads */
	readonly label: string;
	readonly means: string;
	/** when it comes true, as the end of a sentence that begins with *when* */
	readonly comesTrue: string;
	/** what is asked with it: the new close date and why, or why it is lost and to whom; nothing if absent */
	readonly asks?: "day" | "loss";
	/** Whether its deal counts in a period by the calls; `to` is the day it moves to, or NO_DAY. */
	readonly counts: (period: Period, to: Day) => boolean;
	/** Whether it came true of a deal that was won within the period. */
	readonly trueIfWon: (period: Period, to: Day) => boolean;
	/** … of a deal that was lost. */
	readonly trueIfLost: boolean;
	/** … of a deal that is neither when the period is over; null: that can’t be told yet. */
	readonly trueIfNot: (period: Period, to: Day) => boolean | null;
	/** Its deals stand beside the sums, as a sum of their own. */
	readonly beside?: true;
}

/**
 * Whether a day lies in a period; NO_DAY lies in none.
 *
 * @example [isWithin({ start: 10, end: 20 }, 10), isWithin({ start: 10, end: 20 }, 21)] // [true, false]
 */
export const isWithin = (period: Period, day: Day): boolean => day !== NO_DAY && day >= period.start && day <= period.end;

/**
 * Makes a kind of call: what isn't said of it is as of a call that counts for nothing and never came true.
 *
 * @example call({ key: "gone", label: "Gone", means: "will not be won", comesTrue: "it is lost" }).trueIfLost // false
 */
export const call = <K extends string>(given: Pick<CallKind<K>, "key" | "label" | "means" | "comesTrue"> & Partial<CallKind<K>>): CallKind<K> => ({
	counts: () => false,
	trueIfWon: () => false,
	trueIfLost: false,
	trueIfNot: () => false,
	...given,
});
