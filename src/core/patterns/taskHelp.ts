import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import type { Norms } from "../flags/rule";
import { asOf, blockOf, endRow } from "../history/columns";
import { codesOfDeal } from "../inspect";
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
	const norms = new Map([...ends, ...laters].map((one) => [one, flagNormsOn(company, one)]));
	const normsOf = (one: Day) => norms.get(one) as Norms;
	for (let deal = 0; deal < company.deals.length; deal++) {
		lightingsOf(company, deal, ends, laters, scope, normsOf, found);
		if (deal % CHUNK === CHUNK - 1) yield;
	}
	return found;
}

const NOTHING: readonly string[] = [];

/** Adds the lightings of one deal. `ends` are the weeks' ends, the first of them before those that are looked at. */
function lightingsOf(
	company: Company,
	deal: number,
	ends: readonly Day[],
	laters: readonly Day[],
	scope: Scope,
	normsOf: (day: Day) => Norms,
	found: Lighting[],
): void {
	const { history, rules } = company;
	const block = blockOf(history, deal);
	const tasks = company.deals[deal]?.tasks ?? [];
	const last = endRow(block, deal) - 1;
	// Most deals were closed long before, and need no second look.
	if ((block.day[last] as number) <= (ends[0] as Day) && rules.stages[block.stage[last] as number]?.kind !== "open") return;
	// A week's end is mostly another's day three weeks later: each is inspected once.
	const codesOn = codesOfDeal(company, deal);
	const known = new Map<Day, readonly string[]>();
	const on = (day: Day): readonly string[] => {
		const found = known.get(day) ?? codesOn(normsOf(day));
		known.set(day, found);
		return found;
	};
	const kindOn = (day: Day) => {
		const row = asOf(history, deal, day);
		return row < 0 ? undefined : rules.stages[block.stage[row] as number]?.kind;
	};
	const fateOf = (flag: string, day: Day): Fate => {
		const kind = kindOn(day);
		if (kind !== "open") return kind === "won" ? "won" : "gone";
		return on(day).includes(flag) ? "lit" : "out";
	};
	/** by flag, how many weeks its run has lasted; null once it counts no more */
	let runs = new Map<string, number | null>();
	ends.forEach((end, i) => {
		const codes = kindOn(end) === "open" ? on(end) : NOTHING;
		const next = new Map<string, number | null>();
		for (const flag of codes) {
			const before = runs.get(flag);
			// The first end only says which runs were on already.
			const week = i === 0 ? null : before === undefined ? 0 : before === null ? null : before + 1;
			next.set(flag, week);
			if (week === null) continue;
			const withTask = hasTask(company, tasks, flag, end);
			const age = week >= 3 ? 3 : week >= 1 ? 1 : 0;
			if (withTask) next.set(flag, null);
			if (!withTask && age !== week) continue;
			if (!ownerIn(scope, block.owner[asOf(history, deal, end)] as number)) continue;
			found.push({ deal, flag, day: end, age, withTask, fate: fateOf(flag, laters[i] as Day) });
		}
		runs = next;
	});
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
