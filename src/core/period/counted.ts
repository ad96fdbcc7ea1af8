import type { Light } from "../attention/attention";
import { CATEGORIES, type Category } from "../history/columns";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** How many deals, and their amounts in base minor units. */
export interface Sum {
	readonly count: number;
	readonly amount: number;
}

/** The kinds of deals that a period tells apart: each deal of its people is in one of them at the most. */
export const KINDS = ["won", "lost", "open", "leftBehind", "later", "undated"] as const;

export type Kind = (typeof KINDS)[number];

/** What is counted of some people's deals; it adds up over people. Base minor units. */
export interface Counted extends Readonly<Record<Kind, Sum>> {
	/** of what is open */
	readonly categories: Readonly<Record<Category, Sum>>;
	readonly weighted: number;
	readonly attention: Readonly<Record<Light, number>>;
	/** the deal ages of what was won, together, in working days */
	readonly wonAge: number;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] extends object ? Mutable<T[K]> : T[K] };

export type Tally = Mutable<Counted>;

const none = () => ({ count: 0, amount: 0 });

/** Nothing counted yet, to be added to. */
export const tally = (): Tally => ({
	won: none(),
	lost: none(),
	open: none(),
	leftBehind: none(),
	later: none(),
	undated: none(),
	categories: { commit: none(), best_case: none(), pipeline: none(), left_out: none() },
	weighted: 0,
	attention: { act: 0, watch: 0, calm: 0 },
	wonAge: 0,
});

/**
 * Which kind a deal is of in a period, by its status, its close date and the day it was closed; null: none.
 *
 * @example [kindIn({ start: 1, end: 9 }, "open", 5, 0), kindIn({ start: 1, end: 9 }, "open", 0, 0), kindIn({ start: 1, end: 9 }, "open", 12, 0)] // ["open", "leftBehind", "later"]
 */
export function kindIn(period: Period, status: "open" | "won" | "lost", close: Day, closedDay: Day): Kind | null {
	if (status !== "open") return closedDay >= period.start && closedDay <= period.end ? status : null;
	if (close === NO_DAY) return "undated";
	return close < period.start ? "leftBehind" : close > period.end ? "later" : "open";
}

/** Adds to a sum, or takes from it (`times` −1). */
export function add(sum: { count: number; amount: number }, amount: number, times: 1 | -1): void {
	sum.count += times;
	sum.amount += times * amount;
}

/** Adds one part’s counts to those of the whole. */
export function addUp(whole: Tally, part: Counted): void {
	const sum = (to: { count: number; amount: number }, from: Sum) => {
		to.count += from.count;
		to.amount += from.amount;
	};
	for (const kind of KINDS) sum(whole[kind], part[kind]);
	for (const category of CATEGORIES) sum(whole.categories[category], part.categories[category]);
	for (const level of LEVELS) whole.attention[level] += part.attention[level];
	whole.weighted += part.weighted;
	whole.wonAge += part.wonAge;
}

const LEVELS = ["act", "watch", "calm"] as const;
/** How many numbers make the counts of one owner. */
export const WIDTH = 2 * (KINDS.length + CATEGORIES.length) + LEVELS.length + 2;

/** Writes counts as WIDTH numbers from a place on. */
export function writeCounts(counted: Counted, into: Float64Array, at: number): void {
	let place = at;
	const put = (...numbers: number[]) => {
		for (const number of numbers) into[place++] = number;
	};
	for (const kind of KINDS) put(counted[kind].count, counted[kind].amount);
	for (const category of CATEGORIES) put(counted.categories[category].count, counted.categories[category].amount);
	for (const level of LEVELS) put(counted.attention[level]);
	put(counted.weighted, counted.wonAge);
}

/** The counts that were written from a place on. */
export function readCounts(from: Float64Array, at: number): Counted {
	const counted = tally();
	let place = at;
	const next = () => from[place++] as number;
	const sum = () => ({ count: next(), amount: next() });
	for (const kind of KINDS) counted[kind] = sum();
	for (const category of CATEGORIES) counted.categories[category] = sum();
	for (const level of LEVELS) counted.attention[level] = next();
	counted.weighted = next();
	counted.wonAge = next();
	return counted;
}

/** Nothing at all. */
export const nothingCounted = (): Counted => tally();
