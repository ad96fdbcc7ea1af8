const logs: number[] = [0];

/** ln n!, by adding up: exact to the last digits for all counts that there are. */
function logFactorial(n: number): number {
	for (let i = logs.length; i <= n; i++) logs.push((logs[i - 1] as number) + Math.log(i));
	return logs[n] as number;
}

const logChoose = (n: number, k: number): number => logFactorial(n) - logFactorial(k) - logFactorial(n - k);

/** what counts as just as likely, since logarithms round */
const ALIKE = 1.000_000_1;

/**
 * The two-sided p of Fisher’s exact test: how likely a table is, among all with the same sums, that is at most as likely as
 * k₁ of n₁ beside k₂ of n₂.
 *
 * @example fisher(3, 4, 1, 4) // 0.4857…
 * @example fisher(5, 10, 5, 10) // 1
 */
export function fisher(k1: number, n1: number, k2: number, n2: number): number {
	const [hits, all] = [k1 + k2, n1 + n2];
	const chance = (k: number) => Math.exp(logChoose(n1, k) + logChoose(n2, hits - k) - logChoose(all, hits));
	const own = chance(k1);
	let sum = 0;
	for (let k = Math.max(0, hits - n2); k <= Math.min(n1, hits); k++) {
		const one = chance(k);
		if (one <= own * ALIKE) sum += one;
	}
	return Math.min(1, sum);
}
