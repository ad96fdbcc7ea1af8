import type { Company } from "../company";
import { flagsOnDay } from "../flagsOnDay";
import { type Day, NO_DAY } from "../time/day";
import { isOpenOn, type TaskFacts, taskOn } from "./task";

export const OUTCOMES = ["not_lit", "closed", "out", "lit", "early"] as const;
export type OutcomeState = (typeof OUTCOMES)[number];

/** What became of a flag that a task is to clear. */
export interface Outcome {
	readonly flag: string;
	readonly state: OutcomeState;
	/** the day it went out, or the deal was closed; else NO_DAY */
	readonly on: Day;
	/** how the deal was closed, where it was */
	readonly closed: "won" | "lost" | null;
}

/** Working days after a task was done for which its flags are looked at. */
const LOOKED_AT = 15;

/** The last day that the outcome of a task looks at: none later than the seen day. */
export function lastLookedAt(company: Company, task: TaskFacts, seen: Day): Day {
	const then = taskOn(task, seen);
	if (isOpenOn(then, seen)) return seen;
	return Math.min(seen, company.rules.calendar.add(then.doneDay, LOOKED_AT));
}

/**
 * The outcome of each flag that a task names, as seen on a day (section 11): looked at day-end by day-end from the day
 * before it was created. Under today's rules, as everything is.
 *
 * @param deal index of the deal the task is about; NONE: none, and nothing was ever lit
 */
export function outcomesOf(company: Company, deal: number, task: TaskFacts, seen: Day): Outcome[] {
	if (!task.flags.length) return [];
	const { calendar } = company.rules;
	const first = task.createdDay;
	const then = taskOn(task, seen);
	const open = isOpenOn(then, seen);
	const last = lastLookedAt(company, task, seen);
	const endOf = (day: Day) => flagsOnDay(company, deal, day);
	const told = (flag: string, state: OutcomeState, on = NO_DAY, closed: Outcome["closed"] = null): Outcome => ({ flag, state, on, closed });
	return task.flags.map((flag) => {
		if (!endOf(first - 1).codes.has(flag) && !endOf(first).codes.has(flag)) return told(flag, "not_lit");
		for (let day = first; day <= last; day++) {
			const end = endOf(day);
			if (end.codes.has(flag)) continue;
			return end.closed ? told(flag, "closed", day, end.closed) : told(flag, "out", day);
		}
		return told(flag, open || seen > calendar.add(then.doneDay, LOOKED_AT) ? "lit" : "early");
	});
}
