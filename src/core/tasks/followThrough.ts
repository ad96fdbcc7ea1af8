import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { asOf, blockOf, NONE } from "../history/columns";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";
import { OUTCOMES, type Outcome, type OutcomeState } from "./outcome";
import { isOpenOn, type TaskFacts, taskOn } from "./task";

/** A task with the index of its deal; NONE where it is about none. */
export interface TaskOfDeal {
	readonly task: TaskFacts;
	readonly deal: number;
}

export const FOLLOWED = ["onTime", "late", "dropped", "overdue", "open"] as const;
export type Followed = (typeof FOLLOWED)[number];

export type OutcomeCounts = Record<OutcomeState, number>;

/** How many tasks were set, what became of them, and of the flags they name. */
export type FollowedCounts = Record<Followed | "set", number> & { readonly outcomes: OutcomeCounts };

export interface FollowThrough extends FollowedCounts {
	/** by index of the person, in the order of people */
	readonly people: ReadonlyMap<number, FollowedCounts>;
	/** by the flag's code, in the order in which they were met */
	readonly flags: ReadonlyMap<string, OutcomeCounts>;
}

const noOutcomes = (): OutcomeCounts => Object.fromEntries(OUTCOMES.map((state) => [state, 0])) as OutcomeCounts;
const nothing = (): FollowedCounts => ({ set: 0, onTime: 0, late: 0, dropped: 0, overdue: 0, open: 0, outcomes: noOutcomes() });

/** How a task stands on a day: each is of one kind. What has no due day is never late. */
export function followedAs(task: TaskFacts, seen: Day): Followed {
	const { due, state, doneDay } = taskOn(task, seen);
	if (isOpenOn(taskOn(task, seen), seen)) return due !== NO_DAY && due < seen ? "overdue" : "open";
	if (state === "dropped") return "dropped";
	return due === NO_DAY || doneDay <= due ? "onTime" : "late";
}

/** Whether a task was given to somebody of a scope in a period, as seen on a day: these are what follow-through counts. */
export function isFollowed(task: TaskFacts, { scope, period, seen }: { scope: Scope; period: Period; seen: Day }): boolean {
	const { createdDay } = task;
	const { assignee } = taskOn(task, seen);
	return createdDay <= seen && createdDay >= period.start && createdDay <= period.end && assignee !== NONE && ownerIn(scope, assignee);
}

/**
 * What became of the tasks that were given to some people in a period, as seen on a day (section 11).
 *
 * @param outcomes the outcomes of a task as seen on that day
 */
export function followThrough(
	tasks: readonly TaskOfDeal[],
	{ scope, period, seen }: { scope: Scope; period: Period; seen: Day },
	outcomes: (one: TaskOfDeal) => readonly Outcome[],
): FollowThrough {
	const whole = nothing();
	const people = new Map<number, FollowedCounts>();
	const flags = new Map<string, OutcomeCounts>();
	for (const one of tasks) {
		if (!isFollowed(one.task, { scope, period, seen })) continue;
		const { assignee } = taskOn(one.task, seen);
		const own = people.get(assignee) ?? nothing();
		people.set(assignee, own);
		const as = followedAs(one.task, seen);
		for (const counts of [whole, own]) {
			counts.set++;
			counts[as]++;
		}
		for (const { flag, state } of outcomes(one)) {
			const ofFlag = flags.get(flag) ?? noOutcomes();
			flags.set(flag, ofFlag);
			for (const counts of [whole.outcomes, own.outcomes, ofFlag]) counts[state]++;
		}
	}
	return { ...whole, people: new Map([...people].sort(([a], [b]) => a - b)), flags };
}

/** Why an open task won't be done in time. */
export type TooLate = "overdue" | "after the close" | "after the period";

/** Why a task that is open on a day won't be done in time; null where it will, or isn't open. */
export function tooLate(company: Company, { task, deal }: TaskOfDeal, period: Period, seen: Day): TooLate | null {
	const then = taskOn(task, seen);
	if (!isOpenOn(then, seen) || then.due === NO_DAY) return null;
	if (then.due < seen) return "overdue";
	const row = deal === NONE ? -1 : asOf(company.history, deal, seen);
	const close = row < 0 ? NO_DAY : (blockOf(company.history, deal).close[row] as number);
	if (close !== NO_DAY && then.due > close) return "after the close";
	return then.due > company.rules.calendar.lastOnOrBefore(period.end) ? "after the period" : null;
}
