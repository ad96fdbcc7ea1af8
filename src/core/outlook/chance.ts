/** A past deal as it was on a day so far before the end of its period, by its kind, and whether it was won in time. */
export interface Comparable {
	/** stage, category, level of attention, pushes (0, 1, 2 or more) */
	readonly kind: Kind;
	readonly won: boolean;
}
export type Kind = readonly [stage: number, category: string, level: string, pushes: number];

/** At each depth, from all comparables to those that agree in all four values: how many there are, and how many were won. */
export interface Step {
	readonly n: number;
	readonly won: number;
}

export interface Chance {
	readonly chance: number;
	readonly steps: readonly Step[];
	/** the deepest step with at least eight comparables: those that a screen opens */
	readonly depth: number;
}

/** so much weight what is known of the wider kind has at each step */
const WEIGHT = 8;
const DEPTH = 4;

/** Comparables counted by kind, so that the chance of any deal is four look-ups. */
export class Comparables {
	private readonly counts = new Map<string, { n: number; won: number }>();

	constructor(list: Iterable<Comparable>) {
		for (const one of list) this.add(one, 1);
	}

	/** Takes a comparable in, or (−1) out. */
	add({ kind, won }: Comparable, times: 1 | -1): void {
		for (let depth = 0; depth <= DEPTH; depth++) {
			const key = keyOf(kind, depth);
			const own = this.counts.get(key) ?? { n: 0, won: 0 };
			this.counts.set(key, own);
			own.n += times;
			if (won) own.won += times;
		}
	}

	/**
	 * The chance of a deal: p₀ = (w₀ + 1)/(n₀ + 2) of all, and then for each further value it agrees in
	 * pᵢ = (wᵢ + 8 pᵢ₋₁)/(nᵢ + 8).
	 */
	chanceOf(kind: Kind): Chance {
		const steps = Array.from({ length: DEPTH + 1 }, (_, depth): Step => this.counts.get(keyOf(kind, depth)) ?? { n: 0, won: 0 });
		const [all] = steps as [Step];
		let chance = (all.won + 1) / (all.n + 2);
		let depth = 0;
		steps.forEach(({ n, won }, i) => {
			if (i > 0) chance = (won + WEIGHT * chance) / (n + WEIGHT);
			if (n >= WEIGHT) depth = i;
		});
		return { chance, steps: steps.map(({ n, won }) => ({ n, won })), depth };
	}
}

const keyOf = (kind: Kind, depth: number) => kind.slice(0, depth).join("|");
