import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import { toNumber } from "../money/decimal";
import { percentileOf } from "../statistics/percentile";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { drawTotals } from "./draw";
import { type Learnt, learn, type Sample } from "./learnt";
import { type Moments, momentsOf, type Stake, stretchOf } from "./moments";
import { type Past, wonIn } from "./past";
import type { Course } from "./shock";

/** A past period foretold by the others alone, for a scope. */
export interface Foretold {
	readonly past: Past;
	readonly learnt: Learnt;
	/** won by the day looked at, and by its end */
	readonly won: number;
	readonly total: number;
	readonly stakes: readonly Stake[];
	readonly moments: Moments;
	/** by how many spreads what came missed the centre; null where nothing could come */
	readonly miss: number | null;
	/** the scope had no deals in it, nothing new came and nothing was won */
	readonly empty: boolean;
}

/** Each past period of a scope by the other periods alone, amounts at the rates of a day. */
export function foretellPast(
	company: Company,
	past: readonly Past[],
	samples: readonly Sample[],
	courses: readonly Course[],
	scope: Scope,
	ratesOn: Day,
): Foretold[] {
	return past.map((one, i) => {
		const learnt = learn(without(samples, i), without(courses, i));
		const own = one.deals.filter(({ owner }) => ownerIn(scope, owner));
		const stakes = own.map(({ kind, amount }): Stake => ({ kind, chance: learnt.comparables.chanceOf(kind).chance, worth: amount * learnt.ratio }));
		const won = wonIn(company, one.period, scope, one.day, ratesOn);
		const total = wonIn(company, one.period, scope, one.period.end, ratesOn);
		const moments = momentsOf(won, stakes, learnt);
		const miss = moments.deviation > 0 ? (total - moments.centre) / moments.deviation : null;
		const empty = !own.length && total === 0 && !one.fresh.some(({ owner }) => ownerIn(scope, owner));
		return { past: one, learnt, won, total, stakes, moments, miss, empty };
	});
}

const without = <T>(list: readonly T[], i: number): T[] => list.filter((_, j) => j !== i);

/** What the misses of past periods are, those in which nothing could come left out. */
export const missesOf = (foretold: readonly Foretold[]): number[] => foretold.flatMap(({ miss }) => (miss === null ? [] : [miss]));

/** Whether what was foretold of past periods came: each by the others alone. */
export interface OwnRecord {
	/** of deals that were due, everyone's: the mean square of the chance against what came */
	readonly brier: number | null;
	/** of the stages' own probabilities */
	readonly baseline: number | null;
	/** the part of periods that the band is meant to hold */
	readonly meant: number;
	/** the band held so few that it is too narrow here */
	readonly narrow: boolean;
	readonly periods: readonly { readonly period: Period; readonly low: number; readonly high: number; readonly total: number; readonly inside: boolean }[];
	/** in fifths of chance; of fewer than five deals nothing is said */
	readonly calibration: readonly {
		readonly from: number;
		readonly to: number;
		readonly n: number;
		readonly chance: number | null;
		readonly share: number | null;
	}[];
}

/** A record takes so many past periods. */
export const FEWEST_FOR_RECORD = 3;
const MEANT = 0.8;
const FIFTHS = 5;
const LEAST = 5;

/**
 * Whether a band has been too narrow: so few of so many periods were inside that a band which holds eight of ten would
 * hardly ever hold as few.
 *
 * @example [isNarrow(0, 3), isNarrow(1, 3), isNarrow(2, 6), isNarrow(3, 8), isNarrow(4, 8)] // [true, false, true, true, false]
 */
export function isNarrow(inside: number, periods: number): boolean {
	if (periods < FEWEST_FOR_RECORD) return false;
	const most = periods === 3 ? 0 : periods <= 5 ? 1 : periods === 6 ? 2 : 3;
	return inside <= most;
}

/** The record of a scope. It pauses now and then. */
export function* recordOf({ rules }: Company, foretold: readonly Foretold[], seed: string): Generator<undefined, OwnRecord> {
	const periods: OwnRecord["periods"][number][] = [];
	const said = foretold.length >= FEWEST_FOR_RECORD;
	for (const [i, one] of said ? foretold.entries() : []) {
		if (one.empty) continue;
		const stretch = stretchOf(missesOf(without(foretold, i)));
		const draws = yield* drawTotals(one.won, one.stakes, one.learnt, one.moments, stretch, `${seed} ${one.past.period.start}`);
		const [low, high] = [percentileOf(draws, 0.1), percentileOf(draws, 0.9)];
		periods.push({ period: one.past.period, low, high, total: one.total, inside: one.total >= low && one.total <= high });
	}
	let [brier, baseline, n] = [0, 0, 0];
	const fifths = Array.from({ length: FIFTHS }, () => ({ n: 0, chance: 0, won: 0 }));
	for (const { past, learnt } of said ? foretold : []) {
		for (const { kind, won, stage } of past.deals) {
			if (!kind.due) continue;
			const { chance } = learnt.comparables.chanceOf(kind);
			const probability = rules.stages[stage]?.probability;
			brier += (chance - Number(won)) ** 2;
			baseline += ((probability ? toNumber(probability) : 0) - Number(won)) ** 2;
			n++;
			const fifth = fifths[Math.min(FIFTHS - 1, Math.floor(chance * FIFTHS))] as (typeof fifths)[number];
			fifth.n++;
			fifth.chance += chance;
			fifth.won += Number(won);
		}
	}
	return {
		brier: n ? brier / n : null,
		baseline: n ? baseline / n : null,
		meant: MEANT,
		narrow: isNarrow(periods.filter(({ inside }) => inside).length, periods.length),
		periods,
		calibration: fifths.map((fifth, i) => ({
			from: i / FIFTHS,
			to: (i + 1) / FIFTHS,
			n: fifth.n,
			chance: fifth.n >= LEAST ? fifth.chance / fifth.n : null,
			share: fifth.n >= LEAST ? fifth.won / fifth.n : null,
		})),
	};
}
