import type { Kind } from "./kind";
import type { Learnt } from "./learnt";
import { STRATA, shifted } from "./shock";

/** An open deal of which something may come: its chance, which is that of its kind, and what it brings if it is won, base minor units. */
export interface Stake {
	readonly kind: Kind;
	readonly chance: number;
	readonly worth: number;
}

/** The middle and the spread of a total, by the formulas instead of by drawing; base minor units. */
export interface Moments {
	/** won, and every deal with its chance, and what isn't there yet */
	readonly mean: number;
	/** of the mean: what is due, what is dated elsewhere, what isn't there yet */
	readonly due: number;
	readonly elsewhere: number;
	readonly fresh: number;
	/** the mean over how periods go: each way has its own chances */
	readonly centre: number;
	readonly deviation: number;
	/** the part of the variance that no single deal decides, but how the whole period goes; null without any variance */
	readonly common: number | null;
}

const meanOf = (values: readonly number[]) => (values.length ? values.reduce((sum, value) => sum + value, 0) / values.length : 0);
const meanSquare = (values: readonly number[]) => meanOf(values.map((value) => value * value));

/** The moments of what is won and of what may come. */
export function momentsOf(won: number, stakes: readonly Stake[], { spread, fresh: { rate, swings, amounts } }: Learnt): Moments {
	const byKind = new Map<Kind, { chance: number; sum: number; squares: number }>();
	for (const { kind, chance, worth } of stakes) {
		const own = byKind.get(kind) ?? { chance, sum: 0, squares: 0 };
		byKind.set(kind, own);
		own.sum += worth;
		own.squares += worth * worth;
	}
	const expected: number[] = [];
	const variances: number[] = [];
	for (const z of STRATA) {
		let [e, v] = [0, 0];
		for (const { chance, sum, squares } of byKind.values()) {
			const p = shifted(chance, spread * z);
			e += p * sum;
			v += p * (1 - p) * squares;
		}
		expected.push(e);
		variances.push(v);
	}
	const parts = { due: 0, elsewhere: 0 };
	for (const [{ due }, { chance, sum }] of byKind) parts[due ? "due" : "elsewhere"] += chance * sum;
	const amount = meanOf(amounts);
	const fresh = rate * amount;
	const middle = meanOf(expected);
	const shared = meanSquare(expected) - middle * middle;
	const variance = meanOf(variances) + shared + rate * meanSquare(amounts) + (swings.length ? rate ** 2 * (meanSquare(swings) - 1) * amount ** 2 : 0);
	return {
		mean: won + parts.due + parts.elsewhere + fresh,
		...parts,
		fresh,
		centre: won + middle + fresh,
		deviation: Math.sqrt(Math.max(0, variance)),
		common: variance > 0 ? shared / variance : null,
	};
}

/** The stretch is at most so much before it is widened for how few periods it rests on. */
const MOST = 3;

/**
 * By how much the band is widened, since past forecasts missed by more than their spread: of each past period (T − M₀)/s.
 *
 * @example stretchOf([]).toFixed(3) // "1.414"
 */
export function stretchOf(misses: readonly number[]): number {
	const n = misses.length;
	if (!n) return Math.SQRT2;
	const squares = misses.reduce((sum, z) => sum + z * z, 0);
	return Math.min(MOST, Math.max(1, Math.sqrt((2 + squares) / (2 + n)))) * Math.sqrt(1 + 1 / n);
}
