import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { through } from "../../../tests/kit/steps";
import { tallied } from "./chance";
import { drawTotals } from "./draw";
import { kindFrom } from "./kind";
import { type Learnt, learn, type Sample } from "./learnt";
import { momentsOf, type Stake, stretchOf } from "./moments";
import { Random, seedOf } from "./random";
import { isNarrow } from "./record";
import { coursesOf, STRATA, shifted, spreadOf } from "./shock";

const DUE = kindFrom(true, ["1", "commit", "moving", "calm"]);
const RARE = kindFrom(false, ["later", "1", "small"]);
const learntOf = (spread: number, fresh: Learnt["fresh"] = { rate: 0, swings: [1], amounts: [] }): Learnt => ({ ...learn([], []), spread, fresh });
const stake = (kind: typeof DUE, chance: number, worth: number): Stake => ({ kind, chance, worth });
const mean = (values: Float64Array) => values.reduce((sum, value) => sum + value, 0) / values.length;
const draws = (stakes: readonly Stake[], learnt: Learnt, { won = 0, stretch = 1, seed = "x" } = {}) =>
	through(drawTotals(won, stakes, learnt, momentsOf(won, stakes, learnt), stretch, seed));

const kinds = fc.constantFrom(
	DUE,
	RARE,
	kindFrom(true, ["1", "pipeline", "moving", "act"]),
	kindFrom(true, ["2", "commit", "aging", "calm"]),
	kindFrom(false, ["none", "2", "large"]),
);
const deal = fc.record({ kind: kinds, won: fc.boolean() });

describe("chances", () => {
	test("lie between nothing and certainty, and rise with a win of their own kind", () => {
		fc.assert(
			fc.property(fc.array(deal, { maxLength: 30 }), kinds, (list, kind) => {
				const of = (deals: typeof list) => learn([sample(deals)], []).comparables.chanceOf(kind).chance;
				const before = of(list);
				expect(before).toBeGreaterThanOrEqual(kind.due ? Number.MIN_VALUE : 0);
				expect(before).toBeLessThan(1);
				expect(of([...list, { kind, won: true }])).toBeGreaterThan(before);
				expect(of([...list, { kind, won: false }])).toBeLessThanOrEqual(Math.max(before, of([{ kind, won: false }])));
			}),
		);
	});
	test("of deals dated elsewhere are nothing where there never was one", () => {
		expect(learn([sample([{ kind: DUE, won: true }])], []).comparables.chanceOf(RARE)).toMatchObject({ chance: 0, depth: 0 });
	});
});

function sample(deals: readonly { kind: typeof DUE; won: boolean }[], fresh: Sample["fresh"] = []): Sample {
	return { tally: tallied(deals), comparables: deals.length, ours: deals.length, whenWon: 0, whenSeen: 0, fresh };
}

describe("how whole periods go", () => {
	test("a shift keeps nothing and certainty, is undone by its opposite, and only raises what goes well", () => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }), (p, shift) => {
				expect(shifted(shifted(p, shift), -shift)).toBeCloseTo(p, 9);
				// But for what a number can’t tell apart, next to certainty.
				expect((shifted(p, shift) - p) * Math.sign(shift)).toBeGreaterThanOrEqual(-Number.EPSILON);
			}),
		);
		expect([shifted(0, 2), shifted(1, -2)]).toEqual([0, 1]);
	});
	test("the twenty ways balance, in their order, with about the variance of the normal distribution", () => {
		expect(STRATA).toHaveLength(20);
		expect([...STRATA].sort((a, b) => a - b)).toEqual(STRATA);
		expect(STRATA.reduce((sum, z) => sum + z, 0)).toBeCloseTo(0, 9);
		expect(STRATA.reduce((sum, z) => sum + z * z, 0) / 20).toBeGreaterThan(0.93);
	});
	test("the spread is that of before where nothing is seen, less where periods went as foretold, and at most 1", () => {
		expect(spreadOf([{ expected: 0, variance: 0, won: 0 }])).toBe(0.35);
		const calm = Array.from({ length: 8 }, () => ({ expected: 10, variance: 5, won: 10 }));
		expect(spreadOf(calm)).toBeLessThan(0.35);
		const wild = Array.from({ length: 8 }, (_, i) => ({ expected: 10, variance: 0.5, won: i % 2 ? 40 : 0 }));
		expect(spreadOf(wild)).toBe(1);
	});
	test("each period is foretold by the others alone: what came of it changes nothing of its own expectation", () => {
		fc.assert(
			fc.property(fc.array(fc.array(deal, { minLength: 1, maxLength: 12 }), { minLength: 2, maxLength: 5 }), (periods) => {
				const turned = periods.map((list, i) => (i === 0 ? list.map((one) => ({ ...one, won: !one.won })) : list));
				const [before, after] = [periods, turned].map((all) => coursesOf(all.map(tallied))[0]);
				expect([after?.expected, after?.variance]).toEqual([before?.expected, before?.variance]);
			}),
		);
	});
});

describe("totals that are drawn", () => {
	const many = [
		...Array.from({ length: 40 }, (_, i) => stake(kindFrom(true, [String(i % 7)]), 0.2 + (i % 7) / 10, 100 + i)),
		...Array.from({ length: 900 }, (_, i) => stake(RARE, 0.02, 50 + (i % 9))),
	];
	const fresh = { rate: 3, swings: [0.5, 1.5], amounts: [200, 400] };
	test("have the middle and the spread that the formulas say", () => {
		for (const learnt of [learntOf(0), learntOf(0.6), learntOf(0.4, fresh)]) {
			const moments = momentsOf(500, many, learnt);
			const drawn = draws(many, learnt, { won: 500 });
			expect(Math.abs(mean(drawn) - moments.centre)).toBeLessThan(moments.deviation / 20);
			const deviation = Math.sqrt(mean(drawn.map((total) => (total - moments.centre) ** 2)));
			expect(Math.abs(deviation / moments.deviation - 1)).toBeLessThan(0.04);
		}
	});
	test("are the same for the same question, sorted, and never below what is won, however far they are stretched", () => {
		const learnt = learntOf(0.5, fresh);
		expect(draws(many, learnt)).toEqual(draws(many, learnt));
		expect(draws(many, learnt, { seed: "y" })).not.toEqual(draws(many, learnt));
		const far = draws(many, learnt, { won: 700, stretch: 3 });
		expect(far.every((total, i) => total >= 700 && (i === 0 || total >= (far[i - 1] as number)))).toBe(true);
		expect(new Set(draws([], learntOf(0.3), { won: 9 }))).toEqual(new Set([9]));
	});
	test("a stretch widens them about their center", () => {
		const learnt = learntOf(0.2);
		const [plain, wide] = [1, 2].map((stretch) => draws(many, learnt, { stretch })) as [Float64Array, Float64Array];
		const { centre } = momentsOf(0, many, learnt);
		for (const at of [1000, 5000, 9000]) expect((wide[at] as number) - centre).toBeCloseTo(2 * ((plain[at] as number) - centre), 6);
	});
	test("counts come as often as their mean says, large ones too", () => {
		const random = new Random(seedOf("counts"));
		for (const rate of [0, 0.4, 5, 75]) {
			const counts = Float64Array.from({ length: 6000 }, () => random.count(rate));
			expect(Math.abs(mean(counts) - rate)).toBeLessThanOrEqual(0.08 * Math.sqrt(rate));
			const variance = mean(counts.map((count) => (count - rate) ** 2));
			expect(Math.abs(variance - rate)).toBeLessThanOrEqual(0.1 * rate);
		}
	});
});

describe("the band", () => {
	const stakes = fc.array(
		fc.record({ kind: fc.constantFrom(DUE, RARE), chance: fc.double({ min: 0.01, max: 0.99, noNaN: true }), worth: fc.integer({ min: 1, max: 1000 }) }),
		{ minLength: 1, maxLength: 12 },
	);
	test("relative to the mean is never wider for more independent deals of the same kind", () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0.02, max: 0.98, noNaN: true }),
				fc.integer({ min: 1, max: 30 }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				(chance, n, spread) => {
					const wide = (count: number) => {
						const { mean: middle, deviation } = momentsOf(0, Array(count).fill(stake(DUE, chance, 100)), learntOf(spread));
						return deviation / middle;
					};
					expect(wide(n + 1)).toBeLessThanOrEqual(wide(n) + 1e-12);
				},
			),
		);
	});
	test("has parts that add up to the mean, and a common part between nothing and all", () => {
		fc.assert(
			fc.property(stakes, fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(5000), (list, spread, won) => {
				const unique = [...new Map(list.map((one) => [one.kind, one])).values()];
				const { mean: middle, due, elsewhere, fresh, common } = momentsOf(won, unique, learntOf(spread, { rate: 2, swings: [1, 1], amounts: [10] }));
				expect(won + due + elsewhere + fresh).toBeCloseTo(middle, 6);
				expect(common).toBeGreaterThanOrEqual(-1e-12);
				expect(common).toBeLessThanOrEqual(1);
			}),
		);
	});
	test("is stretched by at least 1, by more the more past forecasts missed, and by less the more of them there are", () => {
		const misses = fc.array(fc.double({ min: -9, max: 9, noNaN: true }), { maxLength: 8 });
		fc.assert(
			fc.property(misses, (list) => {
				expect(stretchOf(list)).toBeGreaterThanOrEqual(1);
				expect(stretchOf(list)).toBeLessThanOrEqual(3 * Math.SQRT2);
				expect(stretchOf(list.map((z) => 2 * z))).toBeGreaterThanOrEqual(stretchOf(list));
			}),
		);
		expect(stretchOf(Array(8).fill(0))).toBeLessThan(stretchOf(Array(3).fill(0)));
		expect(stretchOf([5, -5, 5, -5])).toBeCloseTo(3 * Math.sqrt(1.25), 9);
	});
	test("is too narrow where it held none of 3, one of 4 or 5, two of 6, three of 7 or 8", () => {
		const most = [3, 4, 5, 6, 7, 8].map((n) => Array.from({ length: n + 1 }, (_, inside) => inside).filter((inside) => isNarrow(inside, n)).length - 1);
		expect(most).toEqual([0, 1, 1, 2, 3, 3]);
		expect([isNarrow(0, 0), isNarrow(0, 2)]).toEqual([false, false]);
	});
});

test("what isn’t there yet is shared by how many of the deals are the scope’s, and drawn from its own wins once there are eight", () => {
	const fresh = (own: number, others: number) => [...Array(own).fill({ amount: 10, ours: true }), ...Array(others).fill({ amount: 99, ours: false })];
	const deals = Array.from({ length: 10 }, () => ({ kind: DUE, won: false }));
	const quarter = { ...sample(deals), ours: 2 };
	const learnt = learn([{ ...quarter, fresh: fresh(7, 3) }, quarter], []);
	expect(learnt.fresh.rate).toBeCloseTo((7 + (10 / 2) * 0.2) / 3, 12);
	expect(learnt.fresh.swings).toEqual([11 / 6, 1 / 6]);
	expect(learnt.fresh.amounts).toHaveLength(10);
	expect(new Set(learn([{ ...quarter, fresh: fresh(8, 3) }, quarter], []).fresh.amounts)).toEqual(new Set([10]));
});
