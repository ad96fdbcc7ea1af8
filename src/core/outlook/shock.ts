import { Comparables, type Tally } from "./chance";

/** How a past period went beside what the others would have made of its deals: how many wins were expected, their variance, and how many came. */
export interface Course {
	readonly expected: number;
	readonly variance: number;
	readonly won: number;
}

/** The course of each period, with chances by the other periods alone. */
export const coursesOf = (tallies: readonly Tally[]): Course[] =>
	tallies.map((tally, i) => {
		const others = new Comparables(tallies.filter((_, j) => j !== i));
		let [expected, variance, won] = [0, 0, 0];
		for (const [kind, step] of tally) {
			const { chance } = others.chanceOf(kind);
			expected += step.n * chance;
			variance += step.n * chance * (1 - chance);
			won += step.won;
		}
		return { expected, variance, won };
	});

/** what is taken for the spread of periods before any is seen, and how many periods that weighs */
const BEFORE = 0.35 ** 2;
const WEIGHS = 4;

/**
 * How far whole periods go up and down together, in log odds: τ, by how much more the wins of past periods scattered than
 * deals by themselves would. At most 1; of no period 0.35.
 *
 * @example spreadOf([]) // 0.35
 */
export function spreadOf(courses: readonly Course[]): number {
	const said = courses.filter(({ variance }) => variance > 0);
	const m = said.length;
	if (!m) return Math.sqrt(BEFORE);
	const mean = said.reduce((sum, { variance }) => sum + variance, 0) / m;
	const scatter = said.reduce((sum, { won, expected, variance }) => sum + (won - expected) ** 2 / variance, 0);
	return Math.sqrt(Math.min(1, Math.max(0, (scatter - m) / mean + WEIGHS * BEFORE) / (m + WEIGHS)));
}

const HALF = [1.95996, 1.43953, 1.15035, 0.93459, 0.75542, 0.59776, 0.45376, 0.31864, 0.18912, 0.06271];
/** The middles of twenty equal parts of the normal distribution, ascending: how a period may go, each as likely as the others. */
export const STRATA: readonly number[] = [...HALF.map((z) => -z), ...[...HALF].reverse()];

/**
 * A chance in a period that goes by `shift`, in log odds.
 *
 * @example shifted(0.5, 0) // 0.5
 * @example shifted(0.25, Math.log(3)).toFixed(6) // "0.500000"
 */
export function shifted(chance: number, shift: number): number {
	const odds = chance * Math.exp(shift);
	return odds === 0 ? 0 : odds / (1 - chance + odds);
}

/** the normal distribution's upper twentieth */
const TWENTIETH = 1.64485;

/** What a deal of even chance is in the worst of twenty such periods, and in the best. */
export const ofTwenty = (spread: number): { readonly worst: number; readonly best: number } => ({
	worst: shifted(0.5, -TWENTIETH * spread),
	best: shifted(0.5, TWENTIETH * spread),
});
