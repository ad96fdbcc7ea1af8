import { Comparables, type Tally } from "./chance";
import { type Course, spreadOf } from "./shock";

/** What a past period says: its deals by kind, what won ones came to, and what came that wasn't there yet. */
export interface Sample {
	/** everyone's deals that were open on the day looked at */
	readonly tally: Tally;
	/** how many they were, and how many of them the scope's */
	readonly comparables: number;
	readonly ours: number;
	/** Σ amounts of won deals that were due: when won, and on the day looked at */
	readonly whenWon: number;
	readonly whenSeen: number;
	/** won in the period, and neither open nor won on the day looked at; base minor units */
	readonly fresh: readonly { readonly amount: number; readonly ours: boolean }[];
}

/** What isn't there yet on the day, and comes before the period's end. */
export interface Fresh {
	/** how many wins of it are expected */
	readonly rate: number;
	/** how the number went in past periods, in parts of its mean: one for each */
	readonly swings: readonly number[];
	/** the amounts that it may bring, base minor units; none where nothing comes */
	readonly amounts: readonly number[];
}

/** What some past periods teach. */
export interface Learnt {
	readonly comparables: Comparables;
	/** what won deals came to, in parts of what they were worth on the day looked at */
	readonly ratio: number;
	/** τ: how far whole periods go up and down together, in log odds */
	readonly spread: number;
	readonly fresh: Fresh;
}

/** A scope's own amounts are enough from so many on; else everyone's are drawn. */
const ENOUGH = 8;

/** What past periods teach; `courses` are theirs, each by the periods other than itself. */
export function learn(samples: readonly Sample[], courses: readonly Course[]): Learnt {
	const seen = sumOf(samples, ({ whenSeen }) => whenSeen);
	return {
		comparables: new Comparables(samples.map(({ tally }) => tally)),
		ratio: seen ? sumOf(samples, ({ whenWon }) => whenWon) / seen : 1,
		spread: spreadOf(courses),
		fresh: freshOf(samples),
	};
}

function freshOf(samples: readonly Sample[]): Fresh {
	const n = samples.length;
	const all = samples.flatMap(({ fresh }) => fresh);
	const own = all.filter(({ ours }) => ours);
	const comparables = sumOf(samples, (one) => one.comparables);
	const share = comparables ? sumOf(samples, ({ ours }) => ours) / comparables : 0;
	const usual = sumOf(samples, ({ fresh }) => fresh.length + 1) / n;
	return {
		rate: (own.length + (all.length / n) * share) / (n + 1),
		swings: samples.map(({ fresh }) => (fresh.length + 1) / usual),
		amounts: (own.length >= ENOUGH ? own : all).map(({ amount }) => amount),
	};
}

const sumOf = <T>(list: readonly T[], value: (one: T) => number): number => list.reduce((sum, one) => sum + value(one), 0);
