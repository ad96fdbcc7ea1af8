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

/** How a task stood before it was changed: for all days before `until`, back to the entry before. */
export interface TaskWas extends Omit<TaskTimes, "createdDay"> {
	readonly until: Day;
	readonly assignee: number;
	readonly team: string | null;
	/** the instant it was done or dropped in ms, or NaN */
	readonly doneAt: number;
	/** what was said when it was; of how a task is now the stored row says it */
	readonly note: string | null;
}

/** What is kept in memory of each task. */
export interface TaskFacts extends TaskTimes {
	readonly id: string;
	/** index of the person it was given to, or NONE */
	readonly assignee: number;
	/** the team of which anyone may take it, as long as nobody has */
	readonly team: string | null;
	/** codes of the flags it is to clear */
	readonly flags: readonly string[];
	/** the instant it was done or dropped in ms, or NaN */
	readonly doneAt: number;
	/** how it stood before each change, the first first */
	readonly former: readonly TaskWas[];
}

/** A task as it stood at the end of a day. */
export function taskOn(task: TaskFacts, day: Day): TaskFacts {
	if (!task.former.length) return task;
	const was = task.former.find(({ until }) => until > day);
	return was ? { ...task, ...was } : task;
}

/**
 * Open as seen on a day: it had been given, and was neither done nor dropped by then.
 *
 * @example [isOpenOn({ createdDay: 1, state: "done", doneDay: 5 }, 4), isOpenOn({ createdDay: 1, state: "done", doneDay: 5 }, 5)] // [true, false]
 */
export function isOpenOn(task: TaskTimes, seen: Day): boolean {
	if (task.createdDay > seen) return false;
	return task.state === "open" || (task.doneDay !== NO_DAY && task.doneDay > seen);
}

/** Whether a task is open on a day, as it stood then, and due on that day or later. */
export function isAhead(task: TaskFacts, day: Day): boolean {
	const then = taskOn(task, day);
	return then.due >= day && isOpenOn(then, day);
}

/** How often a task's due day was moved later up to a day, and by how many working days in all. */
export interface Moves {
	readonly times: number;
	readonly workingDays: number;
}

/** Section 11: only moves to a later day count; one that is set where there was none isn't a move. */
export function movesOf(task: TaskFacts, calendar: Calendar, seen: Day): Moves {
	let [times, workingDays] = [0, 0];
	task.former.forEach((was, i) => {
		const next = task.former[i + 1]?.due ?? task.due;
		if (was.until > seen || was.due === NO_DAY || next === NO_DAY || next <= was.due) return;
		times++;
		workingDays += calendar.between(was.due, next);
	});
	return { times, workingDays };
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
