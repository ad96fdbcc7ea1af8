import type { Calendar } from "../time/calendar";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

export const TASK_STATES = ["open", "done", "dropped"] as const;
export type TaskState = (typeof TASK_STATES)[number];

/** When a task was given, is due and was done. */
export interface TaskTimes {
	readonly createdDay: Day;
	readonly due: Day;
	readonly state: TaskState;
	/** day it was done or dropped, or NO_DAY */
	readonly doneDay: Day;
}

/** What is kept in memory of each task. */
export interface TaskFacts extends TaskTimes {
	readonly id: string;
	/** index of the person it was given to, or NONE */
	readonly assignee: number;
	/** the instant it was done or dropped in ms, or NaN */
	readonly doneAt: number;
}

/** Open as seen on a day: it had been given, and was neither done nor dropped by then. */
export function isOpenOn(task: TaskTimes, seen: Day): boolean {
	if (task.createdDay > seen) return false;
	return task.state === "open" || (task.doneDay !== NO_DAY && task.doneDay > seen);
}

const USUAL_TIME = 3;

/**
 * The day a task is due unless another is chosen: 3 working days from the seen day, and never after
 * the period's last working day as long as that is still to come.
 */
export function defaultDue(calendar: Calendar, seen: Day, period: Period): Day {
	const due = calendar.add(seen, USUAL_TIME);
	const last = calendar.lastOnOrBefore(period.end);
	return last >= seen ? Math.min(due, last) : due;
}
