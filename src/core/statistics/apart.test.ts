import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { fisher } from "./fisher";
import { showsNothing, shrunkLift } from "./lift";
import { countedWithout, rowsApart, toldApart } from "./toldApart";
import { shareOf, shareOfRows } from "./wilson";

const choose = (n: number, k: number): number => (k === 0 ? 1 : (choose(n - 1, k - 1) * n) / k);
const arm = fc.integer({ min: 1, max: 25 }).chain((n) => fc.tuple(fc.integer({ min: 0, max: n }), fc.constant(n)));

describe("Fisher’s exact test", () => {
	test("is the sum over all tables that are at most as likely, by plain binomials", () => {
		fc.assert(
			fc.property(arm, arm, ([k1, n1], [k2, n2]) => {
				const chances = Array.from({ length: n1 + 1 }, (_, k) => {
					const other = k1 + k2 - k;
					return other < 0 || other > n2 ? 0 : (choose(n1, k) * choose(n2, other)) / choose(n1 + n2, k1 + k2);
				});
				const own = chances[k1] as number;
				const plain = chances.filter((one) => one <= own * 1.000_001).reduce((sum, one) => sum + one, 0);
				expect(fisher(k1, n1, k2, n2)).toBeCloseTo(plain, 8);
				expect(fisher(k2, n2, k1, n1)).toBeCloseTo(fisher(k1, n1, k2, n2), 9);
			}),
		);
	});
	test("falls as more of the same is seen, and is 1 where both are alike", () => {
		expect(fisher(12, 20, 4, 20)).toBeLessThan(fisher(6, 10, 2, 10));
		expect(fisher(400, 1000, 400, 1000)).toBeCloseTo(1, 9);
		expect(fisher(0, 9, 0, 9)).toBe(1);
	});
});

describe("rows told apart", () => {
	test("are those up to the largest that passes, and never one with a larger p than one that isn’t", () => {
		expect(toldApart([0.6, 0.04, 0.004, 0.2, 0.03])).toEqual([false, true, true, false, true]);
		// The second alone wouldn’t pass, the third carries it.
		expect(toldApart([0.001, 0.09, 0.095])).toEqual([true, true, true]);
		expect(toldApart([])).toEqual([]);
		// What isn’t tested is never told apart, and doesn’t count among the rows.
		expect(toldApart([null, 0.04, null, 0.9, null])).toEqual([false, true, false, false, false]);
		fc.assert(
			fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 20 }), (values) => {
				const apart = toldApart(values);
				const least = Math.min(...values.filter((_, i) => !apart[i]), 2);
				for (const [i, p] of values.entries()) if (apart[i]) expect(p).toBeLessThan(least);
			}),
		);
	});
});

describe("rows of shares", () => {
	const share = (k: number, n: number) => ({ k, n });
	test("are told apart by all of them that have enough in both arms", () => {
		expect(rowsApart([[share(2, 14), share(40, 50)]])).toEqual([true]);
		expect(rowsApart([[share(0, 7), share(40, 50)]])).toEqual([false]);
		expect(rowsApart([[share(40, 50), share(0, 7)]])).toEqual([false]);
		const alone = [share(5, 10), share(46, 50)] as const;
		const alike = [share(5, 10), share(25, 50)] as const;
		expect(rowsApart([alone])).toEqual([true]);
		// Among many that are alike it may well be chance.
		expect(rowsApart([alone, ...Array.from({ length: 60 }, () => alike)])[0]).toBe(false);
	});
	test("leave out of all what is a row’s own", () => expect(countedWithout(share(7, 20), share(2, 5))).toEqual(share(5, 15)));
});

describe("a lift", () => {
	test("is drawn towards 1, the more the fewer there are", () => {
		expect(shrunkLift(9, 13, 12, 33)).toBeCloseTo(1.578, 3);
		expect(shrunkLift(0, 5, 0, 9)).toBeNull();
		expect(shrunkLift(3, 6, 3, 6)).toBeCloseTo(1, 12);
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }), fc.integer({ min: 2, max: 30 }), (a, b, times) => {
				const distance = (n: number) => Math.abs(Math.log(shrunkLift(a * n, 10 * n, b * n, 10 * n) ?? 1));
				expect(distance(times)).toBeGreaterThanOrEqual(distance(1) - 1e-12);
				expect(distance(1)).toBeLessThanOrEqual(Math.abs(Math.log(a / b)) + 1e-12);
			}),
		);
	});
	test("shows nothing only where that is known: enough deals in both arms, and an interval close to once as often", () => {
		expect(showsNothing(500, 1000, 500, 1000)).toBe(true);
		expect(showsNothing(10, 20, 10, 20)).toBe(false);
		expect(showsNothing(500, 1000, 300, 1000)).toBe(false);
		expect(showsNothing(19, 19, 19, 19)).toBe(false);
		expect(showsNothing(20, 20, 20, 20)).toBe(true);
		expect(showsNothing(0, 900, 0, 900)).toBe(false);
	});
});

describe("a share in which a deal counts more than once", () => {
	const rows = (...deals: [deal: number, hits: number, n: number][]) =>
		deals.flatMap(([deal, hits, n]) => Array.from({ length: n }, (_, i) => ({ deal, hit: i < hits })));
	test("is the plain one where each counts once", () => {
		const { deals, ...share } = shareOfRows(rows(...Array.from({ length: 12 }, (_, i): [number, number, number] => [i, i < 7 ? 1 : 0, 1])));
		expect(share).toEqual(shareOf(7, 12));
		expect(deals).toBe(12);
	});
	test("has the same share and a wider interval where deals repeat themselves", () => {
		const once = shareOfRows(rows(...Array.from({ length: 12 }, (_, i): [number, number, number] => [i, i < 7 ? 1 : 0, 1])));
		const thrice = shareOfRows(rows(...Array.from({ length: 12 }, (_, i): [number, number, number] => [i, i < 7 ? 3 : 0, 3])));
		expect([thrice.k, thrice.n, thrice.deals, thrice.share]).toEqual([21, 36, 12, 7 / 12]);
		// All three of a deal say the same: they count as one.
		expect(thrice.low).toBeCloseTo(once.low ?? 0, 9);
		expect(thrice.high).toBeCloseTo(once.high ?? 0, 9);
	});
	test("of all or none counts as many as there are deals", () => {
		const all = shareOfRows(rows([1, 4, 4], [2, 4, 4]));
		const plain = shareOf(8, 8);
		expect(all.share).toBe(1);
		expect(all.low).toBeLessThan(plain.low ?? 0);
		expect(shareOfRows([])).toEqual({ k: 0, n: 0, deals: 0, share: null, low: null, high: null });
		expect(shareOfRows(rows([1, 1, 4]))).toMatchObject({ k: 1, n: 4, deals: 1, share: null });
	});
});
