/** A seed of 32 bits from a text: the hash FNV-1a. */
export function seedOf(text: string): number {
	let seed = 2_166_136_261;
	for (let i = 0; i < text.length; i++) seed = Math.imul(seed ^ text.charCodeAt(i), 16_777_619);
	return seed | 0;
}

/** One more than the largest number that is drawn: 31 bits, so that differences stay whole numbers of 32. */
const RANGE = 2_147_483_648;

/** What is drawn again and again: amounts that come with a chance each, and one of some further amounts. */
export interface Lottery {
	/** what is there already */
	readonly base: number;
	readonly parts: readonly { readonly chance: number; readonly amount: number }[];
	/** one of them comes besides, each as likely as the others; none: nothing does */
	readonly besides: readonly number[];
}

/** so many totals are drawn between two pauses */
const CHUNK = 1000;

/**
 * Totals that may come, drawn by the generator mulberry32 (in the public domain): the same for the same seed. It pauses
 * now and then, so that whoever runs it may let others have their turn.
 */
export function* draw(lottery: Lottery, seed: number, draws: number): Generator<undefined, Float64Array> {
	const bounds = Int32Array.from(lottery.parts, ({ chance }) => Math.min(RANGE - 1, Math.round(chance * RANGE)));
	const amounts = Float64Array.from(lottery.parts, ({ amount }) => amount);
	const totals = new Float64Array(draws);
	let state = seed;
	for (let from = 0; from < draws; from += CHUNK) {
		state = drawSome(lottery, bounds, amounts, state, totals.subarray(from, Math.min(draws, from + CHUNK)));
		yield;
	}
	return totals;
}

/** Draws some totals and gives the state to go on with. Spelt out in one loop: it runs some hundred million times for a large company. */
function drawSome({ base, besides }: Lottery, bounds: Int32Array, amounts: Float64Array, seed: number, totals: Float64Array): number {
	const count = amounts.length;
	let state = seed;
	for (let n = 0; n < totals.length; n++) {
		let total = base;
		for (let i = 0; i < count; i++) {
			state = (state + 0x6d2b79f5) | 0;
			let t = Math.imul(state ^ (state >>> 15), 1 | state);
			t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
			// One where what is drawn lies below the bound, else nothing: a branch here would be guessed wrong half the time.
			total += (amounts[i] as number) * ((((t ^ (t >>> 14)) >>> 1) - (bounds[i] as number)) >>> 31);
		}
		if (besides.length) {
			state = (state + 0x6d2b79f5) | 0;
			let t = Math.imul(state ^ (state >>> 15), 1 | state);
			t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
			total += besides[Math.floor((((t ^ (t >>> 14)) >>> 1) / RANGE) * besides.length)] as number;
		}
		totals[n] = total;
	}
	return state;
}
