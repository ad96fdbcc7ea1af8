import type { Kind } from "./kind";
import type { Learnt } from "./learnt";
import type { Moments, Stake } from "./moments";
import { boundOf, Random, seedOf } from "./random";
import { STRATA, shifted } from "./shock";

export const DRAWS = 10_000;
/** so many totals are drawn between two pauses */
const CHUNK = 1000;

/** Deals of one kind that are won rarely: the next that is won is found by a jump, so that their number doesn’t cost. */
interface Rare {
	readonly amounts: Float64Array;
	/** by how the period goes, the logarithm of the chance that one is not won */
	readonly logs: Float64Array;
}

interface Lottery {
	readonly won: number;
	readonly worth: Float64Array;
	/** by how the period goes, of each deal the bound below which a draw says that it is won */
	readonly bounds: readonly Int32Array[];
	readonly rare: readonly Rare[];
	readonly fresh: Learnt["fresh"];
}

function lotteryOf(won: number, stakes: readonly Stake[], { spread, fresh }: Learnt): Lottery {
	const often = stakes.filter(({ kind }) => kind.due);
	const groups = new Map<Kind, { chance: number; amounts: number[] }>();
	for (const { kind, chance, worth } of stakes) {
		if (kind.due || chance <= 0) continue;
		const own = groups.get(kind) ?? { chance, amounts: [] };
		groups.set(kind, own);
		own.amounts.push(worth);
	}
	return {
		won,
		worth: Float64Array.from(often, ({ worth }) => worth),
		bounds: STRATA.map((z) => Int32Array.from(often, ({ chance }) => boundOf(shifted(chance, spread * z)))),
		rare: [...groups.values()].map(({ chance, amounts }) => ({
			amounts: Float64Array.from(amounts),
			logs: Float64Array.from(STRATA, (z) => Math.log1p(-shifted(chance, spread * z))),
		})),
		fresh,
	};
}

function drawOne({ won, worth, bounds, rare, fresh: { rate, swings, amounts } }: Lottery, way: number, random: Random): number {
	let total = won + random.sumOf(worth, bounds[way] as Int32Array);
	for (const { amounts: rarely, logs } of rare) {
		for (let i = jump(random, logs[way] as number); i < rarely.length; i += 1 + jump(random, logs[way] as number)) total += rarely[i] as number;
	}
	if (!amounts.length || !swings.length) return total;
	for (let left = random.count(rate * (swings[random.below(swings.length)] as number)); left > 0; left--)
		total += amounts[random.below(amounts.length)] as number;
	return total;
}

/** How many are not won before the next that is. */
const jump = (random: Random, log: number): number => Math.floor(Math.log(random.part()) / log);

/**
 * Totals that may come, the smallest first: each way a period may go as often as the others, each deal won or not by its
 * chance there, what isn’t there yet as it came in past periods; and stretched from the centre, but never below what is won.
 * It pauses now and then, so that others may have their turn.
 *
 * @param seed names the question: the same has the same answer
 */
export function* drawTotals(
	won: number,
	stakes: readonly Stake[],
	learnt: Learnt,
	{ centre }: Pick<Moments, "centre">,
	stretch: number,
	seed: string,
): Generator<undefined, Float64Array> {
	const lottery = lotteryOf(won, stakes, learnt);
	const random = new Random(seedOf(seed));
	const totals = new Float64Array(DRAWS);
	for (let k = 0; k < DRAWS; k++) {
		totals[k] = Math.max(won, centre + stretch * (drawOne(lottery, k % STRATA.length, random) - centre));
		if (k % CHUNK === CHUNK - 1) yield;
	}
	return totals.sort();
}
