import { twoSided } from "./normal";
import { TESTED_FROM } from "./toldApart";

/**
 * The two-sided p of the rank-sum test (Wilcoxon, Mann and Whitney): how likely two groups of numbers that are alike would
 * be ordered as far from evenly as these. By the normal distribution with ties and continuity corrected; 1 where all
 * numbers are the same; null of fewer than eight in either, which isn’t tested.
 *
 * @example rankSum([1, 2, 3, 4, 5, 6, 7, 8], [1, 2, 3, 4, 5, 6, 7, 8]) // 1
 */
export function rankSum(own: readonly number[], others: readonly number[]): number | null {
	const [n, m] = [own.length, others.length];
	if (n < TESTED_FROM || m < TESTED_FROM) return null;
	const all = [...own.map((value) => ({ value, own: true })), ...others.map((value) => ({ value, own: false }))].sort((a, b) => a.value - b.value);
	let [sum, ties] = [0, 0];
	for (let from = 0; from < all.length; ) {
		let to = from;
		while (to < all.length && all[to]?.value === all[from]?.value) to++;
		// What is the same shares the middle of its ranks, which are counted from 1.
		const rank = (from + to + 1) / 2;
		for (let i = from; i < to; i++) if (all[i]?.own) sum += rank;
		ties += (to - from) ** 3 - (to - from);
		from = to;
	}
	const N = n + m;
	const variance = ((n * m) / 12) * (N + 1 - ties / (N * (N - 1)));
	if (variance <= 0) return 1;
	const away = Math.abs(sum - (n * (N + 1)) / 2);
	return twoSided(Math.max(0, away - 0.5) / Math.sqrt(variance));
}
