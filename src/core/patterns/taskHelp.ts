import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { flagsOnDay } from "../flagsOnDay";
import { asOf, blockOf } from "../history/columns";
import { isOpenOn, type TaskFacts, taskOn } from "../tasks/task";
import { type Day, weekday } from "../time/day";
import { daysBefore } from "./quarters";

/** A flag lit on an open deal at a week's end, with or without a task that names it, and whether it was out later. */
export interface Watched {
	readonly deal: number;
	readonly flag: string;
	readonly day: Day;
	readonly withTask: boolean;
	readonly out: boolean;
}

const WEEKS = 26;
/** working days after which it is looked whether a flag is out */
export const LATER = 15;
/** a task counts that was given in so many working days up to the day */
const GIVEN = 5;
const FRIDAY = 5;

/** The last working days of the last 26 weeks that lie 15 working days or more before a day, the latest first. */
export function weekEnds(company: Company, day: Day): Day[] {
	const { calendar } = company.rules;
	const last = daysBefore(calendar, day, LATER);
	const found: Day[] = [];
	let friday = last + ((FRIDAY - weekday(last) + 7) % 7);
	for (; found.length < WEEKS; friday -= 7) {
		const end = calendar.lastOnOrBefore(friday);
		// A week without a working day has no end of its own.
		if (end > last || end <= friday - 7) {
			if (friday < last - 7 * (WEEKS + 8)) break;
			continue;
		}
		found.push(end);
	}
	return found;
}

function hasTask(company: Company, tasks: readonly TaskFacts[], flag: string, day: Day): boolean {
	return tasks.some((task) => {
		if (!task.flags.includes(flag) || task.createdDay > day) return false;
		return isOpenOn(taskOn(task, day), day) || company.rules.calendar.between(task.createdDay, day) < GIVEN;
	});
}

/** Every flag of every open deal of some people at the ends of the last 26 weeks. It pauses after each week. */
export function* watchedSteps(company: Company, scope: Scope, day: Day): Generator<undefined, Watched[]> {
	const { history, rules } = company;
	const found: Watched[] = [];
	for (const end of weekEnds(company, day)) {
		const later = rules.calendar.add(end, LATER);
		for (let deal = 0; deal < company.deals.length; deal++) {
			const row = asOf(history, deal, end);
			const block = blockOf(history, deal);
			if (row < 0 || rules.stages[block.stage[row] as number]?.kind !== "open" || !ownerIn(scope, block.owner[row] as number)) continue;
			const { codes } = flagsOnDay(company, deal, end);
			if (!codes.size) continue;
			const then = asOf(history, deal, later) < 0 ? null : flagsOnDay(company, deal, later);
			const tasks = company.deals[deal]?.tasks ?? [];
			for (const flag of codes) {
				found.push({ deal, flag, day: end, withTask: hasTask(company, tasks, flag, end), out: !then || then.closed === "won" || !then.codes.has(flag) });
			}
		}
		yield;
	}
	return found;
}
