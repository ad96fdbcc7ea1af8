import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { addPatterns, patternsOf, sumsOf } from "./patterns";
import { Random, seedOf } from "./random";

/** How often each pattern comes, as a table says. */
function sharesOf(chance: number, deals: number): number[] {
	const { fine, bounds, aliases } = patternsOf(chance, deals);
	const shares = Array.from(bounds, () => 0);
	bounds.forEach((bound, column) => {
		const own = Math.min(1, bound / 2 ** fine) / bounds.length;
		shares[column] = (shares[column] as number) + own;
		const other = aliases[column] as number;
		shares[other] = (shares[other] as number) + 1 / bounds.length - own;
	});
	return shares;
}
const onesIn = (pattern: number) => [...pattern.toString(2)].filter((bit) => bit === "1").length;

describe("patterns of wins", () => {
	test("come as often as deals that are won by themselves make them", () => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.constantFrom(4, 8), (chance, deals) => {
				sharesOf(chance, deals).forEach((share, pattern) => {
					const won = onesIn(pattern);
					expect(Math.abs(share - chance ** won * (1 - chance) ** (deals - won))).toBeLessThan(2e-7);
				});
			}),
		);
		expect(sharesOf(0, 8)[0]).toBeCloseTo(1, 9);
		expect(sharesOf(1, 8)[255]).toBeCloseTo(1, 9);
	});
	test("bring the amounts of the deals in them, also of fewer than are drawn for together", () => {
		const sums = sumsOf(Float64Array.from([1, 20, 300]), 4);
		expect([sums[0b0000], sums[0b0101], sums[0b0111], sums[0b1010], sums[0b1000]]).toEqual([0, 301, 321, 20, 0]);
	});
	test("are drawn independently: of two deals both are won as often as the product of their chances", () => {
		const totals = new Float64Array(200_000);
		addPatterns(totals, patternsOf(0.3, 4), sumsOf(Float64Array.from([1, 10]), 4), new Random(seedOf("two")));
		const share = (total: number) => totals.filter((one) => one === total).length / totals.length;
		expect(Math.abs(share(11) - 0.09)).toBeLessThan(0.003);
		expect(Math.abs(share(0) - 0.49)).toBeLessThan(0.004);
		expect(Math.abs(share(1) - share(10))).toBeLessThan(0.004);
	});
});
