import type { Kind } from "./kind";
import type { Learnt } from "./learnt";
import type { Moments, Stake } from "./moments";
import { addPatterns, atOnce, patternsOf, sumsOf } from "./patterns";
import { Random, seedOf } from "./random";
import { STRATA, shifted } from "./shock";

export const DRAWS = 10_000;
/** so many totals go the same way */
const PER_WAY = DRAWS / STRATA.length;
/** deals are drawn for between two pauses, about */
const CHUNK = 400;
/** Below this chance the next deal that is won is found by a jump: their number doesn’t cost then. */
const RARE = 1 / 32;

/** Deals that are won with the same chance, and what each brings. */
interface Group {
	readonly chance: number;
	readonly worth: Float64Array;
}

function groupsOf(stakes: readonly Stake[]): Group[] {
	const groups = new Map<Kind, { chance: number; worth: number[] }>();
	for (const { kind, chance, worth } of stakes) {
		if (chance <= 0) continue;
		const own = groups.get(kind) ?? { chance, worth: [] };
		groups.set(kind, own);
		own.worth.push(worth);
	}
	return [...groups.values()].map(({ chance, worth }) => ({ chance, worth: Float64Array.from(worth) }));
}

/** How many are not won before the next that is. */
const jump = (random: Random, log: number): number => Math.floor(Math.log(random.part()) / log);

/** Adds to each total the deals that are won in it, found one after another through all totals. */
function addRarely(totals: Float64Array, worth: Float64Array, chance: number, random: Random): void {
	const log = Math.log1p(-chance);
	const n = worth.length;
	for (let at = jump(random, log); at < n * totals.length; at += 1 + jump(random, log)) {
		const draw = Math.floor(at / n);
		totals[draw] = (totals[draw] as number) + (worth[at - draw * n] as number);
	}
}

/** Adds to each total what isn’t there yet, as it came in past periods. */
function addFresh(totals: Float64Array, { rate, swings, amounts }: Learnt["fresh"], random: Random): void {
	if (!amounts.length || !swings.length) return;
	for (let i = 0; i < totals.length; i++) {
		let came = 0;
		for (let left = random.count(rate * (swings[random.below(swings.length)] as number)); left > 0; left--)
			came += amounts[random.below(amounts.length)] as number;
		totals[i] = (totals[i] as number) + came;
	}
}

/**
 * Totals that may come, the smallest first: each way a period may go as often as the others, each deal won or not by its
 * chance there, what isn’t there yet as it came in past periods; and stretched from the centre, but never below what is won.
 * All totals are drawn side by side, kind of deal by kind: several deals of one chance by one random number, from a table small
 * enough to stay at hand. It pauses now and then, so that others may have their turn.
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
	const random = new Random(seedOf(seed));
	const totals = new Float64Array(DRAWS).fill(won);
	const ways = STRATA.map((z, way) => ({ z, own: totals.subarray(way * PER_WAY, (way + 1) * PER_WAY) }));
	let drawn = 0;
	for (const { chance, worth } of groupsOf(stakes)) {
		const deals = atOnce(worth.length);
		const sums = Array.from({ length: Math.ceil(worth.length / deals) }, (_, i) => sumsOf(worth.subarray(i * deals, (i + 1) * deals), deals));
		for (const { z, own } of ways) {
			const here = shifted(chance, learnt.spread * z);
			if (here < RARE) addRarely(own, worth, here, random);
			else {
				const patterns = patternsOf(here, deals);
				for (const each of sums) addPatterns(own, patterns, each, random);
			}
		}
		drawn += worth.length;
		if (drawn > CHUNK) {
			drawn = 0;
			yield;
		}
	}
	for (const { own } of ways) addFresh(own, learnt.fresh, random);
	return totals.map((total) => Math.max(won, centre + stretch * (total - centre))).sort();
}
