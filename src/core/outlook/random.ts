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

/**
 * Totals that may come, drawn by the generator mulberry32 (in the public domain): the same for the same seed. Spelt out
 * in one loop, since it runs some hundred million times for a large company.
 */
export function draw({ base, parts, besides }: Lottery, seed: number, draws: number): Float64Array {
	const bounds = Int32Array.from(parts, ({ chance }) => Math.min(RANGE - 1, Math.round(chance * RANGE)));
	const amounts = Float64Array.from(parts, ({ amount }) => amount);
	const totals = new Float64Array(draws);
	const count = amounts.length;
	let state = seed;
	for (let n = 0; n < draws; n++) {
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
	return totals;
}
