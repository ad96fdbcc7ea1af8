import { isOpenOn, type TaskFacts, taskOn } from "../tasks/task";
import { type Day, NO_DAY } from "../time/day";

/** What became of a promise. */
export const FATES = ["kept", "late", "not done", "dropped", "open"] as const;
export type Fate = (typeof FATES)[number];

/** What became of a promise up to the end of a day: kept by its day, late, not done by it, dropped, or still to come. */
export function fateOn(task: TaskFacts, day: Day): Fate {
	const then = taskOn(task, day);
	// A promise is held against the day it was given for: moving it doesn't make it kept.
	const due = promisedFor(task);
	if (!isOpenOn(then, day)) {
		if (then.state === "dropped") return "dropped";
		return due === NO_DAY || then.doneDay <= due ? "kept" : "late";
	}
	return due !== NO_DAY && due < day ? "not done" : "open";
}

/** The day a promise was given for, however often it was moved since. */
export const promisedFor = (task: TaskFacts): Day => task.former[0]?.due ?? task.due;

/**
 * Adds up fates, so that a list of promises is said in one line.
 *
 * @example countFates(["kept", "late", "kept"]).kept // 2
 */
export function countFates(fates: readonly Fate[]): Record<Fate, number> {
	const counts = Object.fromEntries(FATES.map((fate) => [fate, 0])) as Record<Fate, number>;
	for (const fate of fates) counts[fate]++;
	return counts;
}
