import type { Kind } from "./kind";

/** At each depth, from all comparables to those that agree in all values: how many there are, and how many were won. */
export interface Step {
	readonly n: number;
	readonly won: number;
}

export interface Chance {
	readonly chance: number;
	readonly steps: readonly Step[];
	/** the deepest step with at least eight comparables, which a screen opens; all of them where none has */
	readonly depth: number;
}

/** Comparables by kind. */
export type Tally = ReadonlyMap<Kind, Step>;

/** so much weight what is known of the wider kind has at each step */
const WEIGHT = 8;

/** Past deals counted by what they have in common, so that the chance of any deal is a few look-ups. */
export class Comparables {
	private readonly counts = new Map<string, { n: number; won: number }>();
	private readonly chances = new Map<Kind, Chance>();

	constructor(tallies: Iterable<Tally>) {
		for (const tally of tallies) {
			for (const [kind, { n, won }] of tally) {
				for (const key of kind.keys) {
					const own = this.counts.get(key) ?? { n: 0, won: 0 };
					this.counts.set(key, own);
					own.n += n;
					own.won += won;
				}
			}
		}
	}

	/**
	 * The chance of a deal of a kind: of all comparables p₀ = (w₀ + 1)/(n₀ + 2), of deals dated elsewhere (w₀ + ½)/(n₀ + 1),
	 * nothing where there is none; then for each value it agrees in pᵢ = (wᵢ + 8 pᵢ₋₁)/(nᵢ + 8).
	 */
	chanceOf(kind: Kind): Chance {
		const known = this.chances.get(kind);
		if (known) return known;
		const steps = kind.keys.map((key): Step => ({ ...(this.counts.get(key) ?? { n: 0, won: 0 }) }));
		const [all] = steps as [Step];
		let chance = kind.due ? (all.won + 1) / (all.n + 2) : (all.won + 0.5) / (all.n + 1);
		let depth = 0;
		steps.forEach(({ n, won }, i) => {
			if (i > 0) chance = (won + WEIGHT * chance) / (n + WEIGHT);
			if (n >= WEIGHT) depth = i;
		});
		const made: Chance = { chance: kind.due || all.n > 0 ? chance : 0, steps, depth };
		this.chances.set(kind, made);
		return made;
	}
}

/** Deals counted by kind. */
export function tallied(deals: Iterable<{ readonly kind: Kind; readonly won: boolean }>): Tally {
	const tally = new Map<Kind, { n: number; won: number }>();
	for (const { kind, won } of deals) {
		const own = tally.get(kind) ?? { n: 0, won: 0 };
		tally.set(kind, own);
		own.n++;
		if (won) own.won++;
	}
	return tally;
}
