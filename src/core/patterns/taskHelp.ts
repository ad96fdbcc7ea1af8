import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { RULES } from "../flags/list";
import type { Norms } from "../flags/rule";
import { asOf, blockOf, endRow } from "../history/columns";
import { firesOfDeal } from "../inspect";
import { flagNormsOn } from "../norms";
import { isOpenOn, type TaskFacts, taskOn } from "../tasks/task";
import { type Day, weekday } from "../time/day";
import { daysBefore } from "./quarters";

/** The classes of age in which lightings are compared, by their first week: the first, the second and third, all later ones. */
export const CLASSES = [0, 1, 3] as const;
export type AgeClass = (typeof CLASSES)[number];

/** What became of a lit flag: the deal is open and it doesn't fire, it was won, it was lost or removed, or it is lit still. */
export const FATES = ["out", "won", "gone", "lit"] as const;
export type Fate = (typeof FATES)[number];

/** A flag that lit on an open deal, at the week's end at which it is looked at. */
export interface Lighting {
	readonly deal: number;
	readonly flag: string;
	readonly day: Day;
	/** how long it had been lit by then */
	readonly age: AgeClass;
	readonly withTask: boolean;
	/** fifteen working days later */
	readonly fate: Fate;
}

const WEEKS = 26;
/** working days after which it is looked what became of a flag */
export const LATER = 15;
/** a task counts that was given in so many working days up to the day */
const GIVEN = 5;
const FRIDAY = 5;

/** The last working days of the last weeks that lie 15 working days or more before a day, the latest first. */
export function weekEnds(company: Company, day: Day, weeks = WEEKS): Day[] {
	const { calendar } = company.rules;
	const last = daysBefore(calendar, day, LATER);
	const found: Day[] = [];
	let friday = last + ((FRIDAY - weekday(last) + 7) % 7);
	for (; found.length < weeks; friday -= 7) {
		const end = calendar.lastOnOrBefore(friday);
		// A week without a working day has no end of its own.
		if (end > last || end <= friday - 7) {
			if (friday < last - 7 * (weeks + 8)) break;
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

/** so many deals are gone through between two pauses */
const CHUNK = 2000;

/**
 * Every lighting of a flag on some people's deals in the last 26 weeks: a run of week's ends on which it fires and the deal is
 * open. One with a task counts once, at the first week's end with it; one without in each class of age that it comes to, at
 * its first week's end there, as long as it has had no task. A run that was on before is left out. It pauses now and then.
 */
export function* lightingSteps(company: Company, scope: Scope, day: Day): Generator<undefined, Lighting[]> {
	const found: Lighting[] = [];
	const ends = weekEnds(company, day, WEEKS + 1).reverse();
	const laters = ends.map((end) => company.rules.calendar.add(end, LATER));
	const days = [...new Set([...ends, ...laters])];
	const weeks: Weeks = {
		days,
		norms: days.map((one) => flagNormsOn(company, one)),
		ends: ends.map((end) => days.indexOf(end)),
		laters: laters.map((later) => days.indexOf(later)),
		fires: new Int32Array(days.length),
		runs: new Int8Array(RULES.length),
	};
	for (let deal = 0; deal < company.deals.length; deal++) {
		lightingsOf(company, deal, weeks, scope, found);
		if (deal % CHUNK === CHUNK - 1) yield;
	}
	return found;
}

/** The days that are looked at, each by its place: a week's end is mostly another's day three weeks later. */
interface Weeks {
	readonly days: readonly Day[];
	readonly norms: readonly Norms[];
	/** the weeks’ ends, the first of them before those that count, and what comes 15 working days after each */
	readonly ends: readonly number[];
	readonly laters: readonly number[];
	/** of one deal at a time: which flags fire on each day, or NOT_ASKED */
	readonly fires: Int32Array;
	/** and for how many weeks each flag’s run has lasted, or NOT_LIT; OVER once it counts no more */
	readonly runs: Int8Array;
}
const NOT_ASKED = -1;
const NOT_LIT = -1;
const OVER = -2;

/** Adds the lightings of one deal. */
function lightingsOf(company: Company, deal: number, { days, norms, ends, laters, fires, runs }: Weeks, scope: Scope, found: Lighting[]): void {
	const { history, rules } = company;
	const block = blockOf(history, deal);
	const tasks = company.deals[deal]?.tasks ?? [];
	const last = endRow(block, deal) - 1;
	// Most deals were closed long before, and need no second look.
	if ((block.day[last] as number) <= (days[ends[0] as number] as Day) && rules.stages[block.stage[last] as number]?.kind !== "open") return;
	const firesOn = firesOfDeal(company, deal);
	fires.fill(NOT_ASKED);
	runs.fill(NOT_LIT);
	const on = (place: number): number => {
		if (fires[place] === NOT_ASKED) fires[place] = firesOn(norms[place] as Norms) ?? 0;
		return fires[place] as number;
	};
	const fateOf = (flag: number, later: number): Fate => {
		const row = asOf(history, deal, days[later] as Day);
		const kind = row < 0 ? undefined : rules.stages[block.stage[row] as number]?.kind;
		if (kind !== "open") return kind === "won" ? "won" : "gone";
		return on(later) & (1 << flag) ? "lit" : "out";
	};
	// What became of them is looked at afterwards: what is known of a deal on one day serves the next, not one three weeks back.
	const lit: { readonly flag: number; readonly place: number; readonly age: AgeClass; readonly withTask: boolean }[] = [];
	for (let place = 0; place < ends.length; place++) {
		const end = days[ends[place] as number] as Day;
		const bits = on(ends[place] as number);
		const owned = bits !== 0 && ownerIn(scope, block.owner[asOf(history, deal, end)] as number);
		for (let flag = 0; flag < runs.length; flag++) {
			const before = runs[flag] as number;
			// The first end only says which runs were on already.
			const week = !(bits & (1 << flag)) ? NOT_LIT : place === 0 ? OVER : before === OVER ? OVER : before + 1;
			runs[flag] = week;
			if (week < 0) continue;
			const withTask = hasTask(company, tasks, (RULES[flag] as (typeof RULES)[number]).code, end);
			const age = week >= 3 ? 3 : week >= 1 ? 1 : 0;
			if (withTask) runs[flag] = OVER;
			if ((withTask || age === week) && owned) lit.push({ flag, place, age, withTask });
		}
	}
	for (const { flag, place, age, withTask } of lit) {
		const code = (RULES[flag] as (typeof RULES)[number]).code;
		found.push({ deal, flag: code, day: days[ends[place] as number] as Day, age, withTask, fate: fateOf(flag, laters[place] as number) });
	}
}

/** How many lightings came to what. */
export type Fates = Readonly<Record<Fate, number>>;

export interface ClassHelp {
	readonly age: AgeClass;
	readonly with: Fates;
	readonly without: Fates;
}

/** Whether flags are out more often where a task names them: by class of age, and over all classes. */
export interface TaskHelp {
	readonly classes: readonly ClassHelp[];
	/** of the shares that are out or won, with a task less without, weighed by how many have one; null where no class has five in both arms */
	readonly difference: number | null;
	/** its interval at 95% */
	readonly low: number | null;
	readonly high: number | null;
	readonly helps: boolean;
}

const Z = 1.959964;
const LEAST = 5;

const isGood = ({ fate }: Lighting) => fate === "out" || fate === "won";
/** Lost deals say nothing of a task, and stand apart. */
const counts = ({ fate }: Lighting) => fate !== "gone";
const fatesOf = (list: readonly Lighting[]): Fates =>
	Object.fromEntries(FATES.map((fate) => [fate, list.filter((one) => one.fate === fate).length])) as Record<Fate, number>;

/** What the lightings of one flag say. The interval takes the terms of a deal together, since one deal may count several times. */
export function taskHelp(lightings: readonly Lighting[]): TaskHelp {
	const arms = CLASSES.map((age) => {
		const own = lightings.filter((one) => one.age === age);
		return { age, with: own.filter(({ withTask }) => withTask), without: own.filter(({ withTask }) => !withTask) };
	});
	const classes = arms.map(({ age, with: has, without }) => ({ age, with: fatesOf(has), without: fatesOf(without) }));
	const compared = arms
		.map((one) => ({ with: one.with.filter(counts), without: one.without.filter(counts) }))
		.filter((one) => one.with.length >= LEAST && one.without.length >= LEAST);
	const all = compared.reduce((sum, one) => sum + one.with.length, 0);
	if (!all) return { classes, difference: null, low: null, high: null, helps: false };
	let difference = 0;
	const terms = new Map<number, number>();
	for (const one of compared) {
		const weight = one.with.length / all;
		for (const [arm, sign] of [
			[one.with, 1],
			[one.without, -1],
		] as const) {
			const share = arm.filter(isGood).length / arm.length;
			difference += sign * weight * share;
			for (const row of arm) terms.set(row.deal, (terms.get(row.deal) ?? 0) + (sign * weight * (Number(isGood(row)) - share)) / arm.length);
		}
	}
	const half = Z * Math.sqrt([...terms.values()].reduce((sum, term) => sum + term * term, 0));
	return { classes, difference, low: difference - half, high: difference + half, helps: difference - half > 0 };
}
