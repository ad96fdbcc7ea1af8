import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Length, logRank } from "./logRank";
import { twoSided } from "./normal";
import { rankSum } from "./rankSum";

describe("the tails of the normal distribution", () => {
	test("are those of tables, near and far", () => {
		for (const [z, p] of [
			[0.5, 0.617_075_077],
			[1, 0.317_310_508],
			[2, 0.045_500_264],
			[3, 0.002_699_796],
			[3.6, 0.000_318_217],
			[5, 5.733_031e-7],
		] as const)
			expect(twoSided(z) / p).toBeCloseTo(1, 5);
	});
	test("fall without a step, and are the same on both sides", () => {
		for (let z = 0; z < 6; z += 0.01) {
			expect(twoSided(z + 0.01)).toBeLessThan(twoSided(z));
			expect(twoSided(-z)).toBe(twoSided(z));
			expect(twoSided(z + 1e-9)).toBeCloseTo(twoSided(z), 8);
		}
	});
});

/** All ways to choose so many of some numbers. */
function* choices(list: readonly number[], count: number): Generator<number[]> {
	if (count === 0) return void (yield []);
	for (let i = 0; i + count <= list.length; i++) for (const rest of choices(list.slice(i + 1), count - 1)) yield [list[i] as number, ...rest];
}

/** The p of the sum of ranks by going through all ways in which the ranks could have fallen. */
function plain(own: readonly number[], others: readonly number[]): number {
	const all = [...own, ...others];
	const ranks = all.map((value) => all.filter((one) => one < value).length + (all.filter((one) => one === value).length + 1) / 2);
	const middle = (own.length * (all.length + 1)) / 2;
	const away = (list: readonly number[]) => Math.abs(list.reduce((sum, rank) => sum + rank, 0) - middle);
	const mine = away(ranks.slice(0, own.length));
	let [as, n] = [0, 0];
	for (const chosen of choices(ranks, own.length)) {
		n++;
		if (away(chosen) >= mine - 1e-9) as++;
	}
	return as / n;
}

describe("the rank-sum test", () => {
	test("comes close to going through all orders, with ties too", () => {
		const cases: [number[], number[]][] = [
			[
				[1, 2, 3, 4, 6, 7, 8, 12],
				[5, 9, 10, 11, 13, 14, 15, 16],
			],
			[
				[0, 0, 0, 1, 1, 2, 5, 5],
				[0, 0, 1, 2, 2, 3, 3, 9],
			],
			[
				[3, 3, 3, 3, 3, 3, 3, 4],
				[1, 1, 1, 1, 2, 2, 2, 2],
			],
		];
		for (const [own, others] of cases) expect(Math.abs((rankSum(own, others) ?? 9) - plain(own, others))).toBeLessThan(0.015);
	});
	test("is the same in whichever order they come, whatever the unit, and 1 where nothing differs", () => {
		const numbers = fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 8, maxLength: 25 });
		fc.assert(
			fc.property(numbers, numbers, (own, others) => {
				const p = rankSum(own, others) as number;
				expect(rankSum(others, own)).toBeCloseTo(p, 12);
				expect(
					rankSum(
						own.map((n) => 3 * n + 7),
						others.map((n) => 3 * n + 7),
					),
				).toBeCloseTo(p, 12);
				expect(p).toBeGreaterThanOrEqual(0);
				expect(p).toBeLessThanOrEqual(1);
			}),
		);
		expect(rankSum(Array(9).fill(4), Array(12).fill(4))).toBe(1);
		expect(rankSum([1, 2, 3, 4, 5, 6, 7], Array(50).fill(9))).toBeNull();
	});
});

const lengths = (finished: readonly number[], unfinished: readonly number[]): Length[] => [
	...finished.map((length) => ({ length, finished: true })),
	...unfinished.map((length) => ({ length, finished: false })),
];

describe("the log-rank test", () => {
	test("gives what textbooks give for the weeks of remission under 6-MP and without", () => {
		const treated = lengths([6, 6, 6, 7, 10, 13, 16, 22, 23], [6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35]);
		const control = lengths([1, 1, 2, 2, 3, 4, 4, 5, 5, 8, 8, 8, 8, 11, 11, 12, 12, 15, 17, 22, 23], []);
		// χ² = 16.79
		expect(logRank(treated, control)).toBeCloseTo(twoSided(Math.sqrt(16.793)), 6);
		expect(logRank(control, treated)).toBeCloseTo(logRank(treated, control) as number, 12);
	});
	test("is 1 for two that are alike or never end, and isn’t made of few", () => {
		const some = lengths([3, 5, 8, 9, 12, 15, 20, 31], [7, 40]);
		expect(logRank(some, some)).toBe(1);
		expect(logRank(lengths([], Array(9).fill(5)), lengths([], Array(9).fill(50)))).toBe(1);
		expect(logRank(lengths([1, 1, 1, 1, 1, 1, 1], []), some)).toBeNull();
	});
});
