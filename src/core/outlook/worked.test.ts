import { describe, expect, test } from "vitest";
import { tallied } from "./chance";
import { kindFrom } from "./kind";
import { learn, type Sample } from "./learnt";
import { momentsOf, type Stake, stretchOf } from "./moments";
import { coursesOf } from "./shock";

// The contract’s example: two past quarters, everyone’s, in whole units.
const A = kindFrom(true, ["Terms", "commit", "moving", "calm"]);
const F = kindFrom(true, ["Proposal", "best_case", "aging", "act"]);
const O = kindFrom(false, ["next", "Terms", "small"]);
const many = (n: number, won: number, kind: typeof A) => Array.from({ length: n }, (_, i) => ({ kind, won: i < won }));
const sample = (deals: ReturnType<typeof many>, whenWon: number, whenSeen: number, fresh: number[]): Sample => ({
	tally: tallied(deals),
	comparables: deals.length,
	ours: deals.length,
	whenWon,
	whenSeen,
	fresh: fresh.map((amount) => ({ amount, ours: true })),
});
const Q1 = sample([...many(5, 4, A), ...many(3, 0, F), ...many(10, 1, O)], 4 * 90, 400, [30]);
const Q2 = sample([...many(5, 2, A), ...many(3, 1, F), ...many(10, 0, O)], 2 * 95 + 190, 400, [20, 40]);
const PAST = [Q1, Q2];
const COURSES = coursesOf(PAST.map(({ tally }) => tally));

describe("the worked example", () => {
	const learnt = learn(PAST, COURSES);
	const stakesOf = ({ comparables, ratio }: typeof learnt, deals: readonly (readonly [kind: typeof A, amount: number])[]): Stake[] =>
		deals.map(([kind, amount]) => ({ kind, chance: comparables.chanceOf(kind).chance, worth: amount * ratio }));

	test("chances in steps, and how deep they go", () => {
		const of = (kind: typeof A) => learnt.comparables.chanceOf(kind);
		expect(of(A).chance).toBeCloseTo(0.59393, 5);
		expect(of(A).steps.map(({ n, won }) => [n, won])).toEqual([[16, 7], ...Array(4).fill([10, 6])]);
		expect(of(A).depth).toBe(4);
		expect(of(F).chance).toBeCloseTo(0.19628, 5);
		expect(of(F).depth).toBe(0);
		expect(of(O).chance).toBeCloseTo(0.0505, 5);
		expect(of(kindFrom(false, ["none", "Terms", "small"])).steps.map(({ n }) => n)).toEqual([20, 0, 0, 0]);
	});
	test("amounts, spread, and what isn’t there yet", () => {
		expect(learnt.ratio).toBeCloseTo(0.925, 9);
		expect(COURSES[0]).toMatchObject({ won: 5 });
		expect(COURSES[0]?.expected).toBeCloseTo(3.09586, 5);
		expect(COURSES[0]?.variance).toBeCloseTo(1.92402, 5);
		expect(COURSES[1]?.expected).toBeCloseTo(5.23645, 5);
		expect(COURSES[1]?.variance).toBeCloseTo(2.2062, 5);
		expect(learnt.spread ** 2).toBeCloseTo(0.25531, 5);
		expect(learnt.fresh).toEqual({ rate: 1.5, swings: [0.8, 1.2], amounts: [30, 20, 40] });
	});
	test("mean, its parts, and the moments", () => {
		const moments = momentsOf(
			200,
			stakesOf(learnt, [
				[A, 100],
				[F, 300],
				[O, 50],
			]),
			learnt,
		);
		expect(moments.due).toBeCloseTo(54.939 + 54.469, 2);
		expect(moments.elsewhere).toBeCloseTo(2.336, 3);
		expect(moments.fresh).toBe(45);
		expect(moments.mean).toBeCloseTo(356.743, 2);
		expect(moments.centre).toBeCloseTo(359.574, 1);
		expect(moments.deviation).toBeCloseTo(129.958, 2);
	});
	test("the stretch, by each quarter from the other alone", () => {
		const past = [
			{ won: 250, total: 690 },
			{ won: 150, total: 590 },
		];
		const misses = PAST.map((_, i) => {
			const others = learn(
				PAST.filter((_, j) => j !== i),
				COURSES.filter((_, j) => j !== i),
			);
			const deals = [...Array(5).fill([A, 100]), ...Array(3).fill([F, 200]), ...Array(10).fill([O, 50])] as [typeof A, number][];
			const { centre, deviation } = momentsOf(past[i]?.won ?? 0, stakesOf(others, deals), others);
			return ((past[i]?.total ?? 0) - centre) / deviation;
		});
		expect(misses[0]).toBeCloseTo(-0.08433, 5);
		expect(misses[1]).toBeCloseTo(-0.33062, 5);
		expect(stretchOf(misses)).toBeCloseTo(1.22474, 5);
	});
});
