/** A seed of 32 bits from a text: the hash FNV-1a. */
export function seedOf(text: string): number {
	let seed = 2_166_136_261;
	for (let i = 0; i < text.length; i++) seed = Math.imul(seed ^ text.charCodeAt(i), 16_777_619);
	return seed | 0;
}

const WHOLE = 2 ** 32;
/** beyond it the product of many draws would lose itself below the smallest number */
const STEP = 30;

/** Random numbers by the generator mulberry32 (in the public domain): the same for the same seed. */
export class Random {
	constructor(private state: number) {}

	/** 32 bits, the lowest number first */
	bits(): number {
		this.state = (this.state + 0x6d2b79f5) | 0;
		let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return (t ^ (t >>> 14)) >>> 0;
	}

	/** above 0, up to 1 */
	part(): number {
		return (this.bits() + 1) / WHOLE;
	}

	/** a whole number from 0 up to below `count` */
	below(count: number): number {
		return Math.floor((this.bits() / WHOLE) * count);
	}

	/** how many of something that comes so often in the mean: Poisson’s distribution, by Knuth’s products */
	count(mean: number): number {
		let found = 0;
		for (let left = mean; left > 0; left -= STEP) {
			const bound = Math.exp(-Math.min(left, STEP));
			for (let product = this.part(); product > bound; product *= this.part()) found++;
		}
		return found;
	}
}
