import type { Random } from "./random";

/** From so many deals of one chance on a table of many patterns is worth making. */
const MANY = 64;

/** So many deals are drawn for together, of some that are won with one chance: of each, whether it is won, is a bit of one number. */
export const atOnce = (deals: number): number => (deals >= MANY ? 8 : 4);

/** Which patterns of wins come how often, where each deal is won with the same chance: Walker’s alias table, as Vose builds it. */
export interface Patterns {
	/** so many of 32 random bits say which of the two patterns of a column it is; the others name the column */
	readonly fine: number;
	/** of each column, below which number it is its own pattern */
	readonly bounds: Int32Array;
	/** else it is this one */
	readonly aliases: Uint8Array;
}

const bitsIn = Uint8Array.from({ length: 256 }, (_, pattern) => {
	let bits = 0;
	for (let left = pattern; left; left &= left - 1) bits++;
	return bits;
});

/**
 * @param chance that one deal is won, 0 to 1
 * @param deals how many are drawn for together, at most 8
 */
export function patternsOf(chance: number, deals: number): Patterns {
	const count = 1 << deals;
	const fine = 32 - deals;
	const ways = Float64Array.from({ length: deals + 1 }, (_, won) => count * chance ** won * (1 - chance) ** (deals - won));
	const left = new Float64Array(count);
	const bounds = new Int32Array(count).fill(2 ** fine);
	const aliases = new Uint8Array(count);
	// Those of less than a column’s share from the front, the others from the back.
	const order = new Uint8Array(count);
	let [small, large] = [0, count];
	for (let pattern = 0; pattern < count; pattern++) {
		left[pattern] = ways[bitsIn[pattern] as number] as number;
		aliases[pattern] = pattern;
		if ((left[pattern] as number) < 1) order[small++] = pattern;
		else order[--large] = pattern;
	}
	while (small > 0 && large < count) {
		const [less, more] = [order[--small] as number, order[large] as number];
		bounds[less] = Math.round((left[less] as number) * 2 ** fine);
		aliases[less] = more;
		left[more] = (left[more] as number) - (1 - (left[less] as number));
		if ((left[more] as number) >= 1) continue;
		large++;
		order[small++] = more;
	}
	return { fine, bounds, aliases };
}

/** What each pattern of wins among some deals, at most so many as are drawn for together, brings. */
export function sumsOf(amounts: Float64Array, deals: number): Float64Array {
	const sums = new Float64Array(1 << deals);
	for (let place = 0; place < deals; place++) {
		const bit = 1 << place;
		const amount = amounts[place] ?? 0;
		for (let pattern = 0; pattern < bit; pattern++) sums[bit + pattern] = (sums[pattern] as number) + amount;
	}
	return sums;
}

/** Adds to each total what the deals of a pattern drawn for it bring. */
export function addPatterns(totals: Float64Array, { fine, bounds, aliases }: Patterns, sums: Float64Array, random: Random): void {
	const mask = 2 ** fine - 1;
	for (let i = 0; i < totals.length; i++) {
		const bits = random.bits();
		const column = bits >>> fine;
		const pattern = (bits & mask) < (bounds[column] as number) ? column : (aliases[column] as number);
		totals[i] = (totals[i] as number) + (sums[pattern] as number);
	}
}
