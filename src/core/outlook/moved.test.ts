import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { MOVES, movesOf } from "./moved";

const deal = (id: number, amount: number, chance: number) => ({ deal: id, amount, chance, steps: [], depth: 0, swing: 0 });
/** A side as an outlook has it: its mean is what its parts make. */
const side = (won: number, rest: number, amountRatio: number, deals: ReturnType<typeof deal>[]) => ({
	won,
	rest,
	amountRatio,
	deals,
	mean: won + rest + deals.reduce((sum, one) => sum + one.chance * one.amount * amountRatio, 0),
});

describe("the bridge of a mean", () => {
	test("of a hand-made case", () => {
		// 1 is won at 110 of 100; 2 goes; 3 rises from a half to 0.8; 4 comes; 5 loses a fifth of its amount.
		const before = side(1000, 50, 1, [deal(1, 100, 0.6), deal(2, 200, 0.25), deal(3, 300, 0.5), deal(5, 500, 0.4)]);
		const after = side(1110, 40, 1, [deal(3, 300, 0.8), deal(4, 80, 0.5), deal(5, 400, 0.4)]);
		const steps = Object.fromEntries(movesOf(before, after, new Map([[1, 110]])).map(({ key, amount }) => [key, amount]));
		expect(steps.won).toBeCloseTo(50);
		expect(steps.gone).toBeCloseTo(-50);
		expect(steps.new).toBeCloseTo(40);
		expect(steps.chancesUp).toBeCloseTo(90);
		expect(steps.chancesDown).toBeCloseTo(0);
		expect(steps.amounts).toBeCloseTo(-40);
		expect(steps.rest).toBe(-10);
	});
	test("is told in its order, and of each step the deal that adds most first, whichever way; of equal ones the first", () => {
		const before = side(0, 0, 1, [deal(1, 100, 0.5), deal(2, 900, 0.5), deal(3, 300, 0.5), deal(4, 300, 0.5), deal(6, 100, 0.5)]);
		const after = side(0, 0, 1, [deal(1, 200, 0.5), deal(2, 200, 0.5), deal(6, 200, 0.5)]);
		const steps = movesOf(before, after, new Map());
		expect(steps.map(({ key }) => key)).toEqual(["won", "new", "gone", "chancesUp", "chancesDown", "amounts", "rest"]);
		expect(steps.find(({ key }) => key === "amounts")?.deals).toEqual([
			{ deal: 2, amount: -350 },
			{ deal: 1, amount: 50 },
			{ deal: 6, amount: 50 },
		]);
		expect(steps.find(({ key }) => key === "gone")?.deals.map((one) => one.deal)).toEqual([3, 4]);
	});
	test("adds up to the difference, whatever came and went", () => {
		const deals = fc.uniqueArray(
			fc.record({ deal: fc.nat(30), amount: fc.integer({ min: 0, max: 1_000_000 }), chance: fc.double({ min: 0, max: 1, noNaN: true }) }),
			{
				selector: (one) => one.deal,
				maxLength: 20,
			},
		);
		const ratio = fc.double({ min: 0.5, max: 1.5, noNaN: true });
		fc.assert(
			fc.property(
				deals,
				deals,
				ratio,
				ratio,
				fc.nat(1_000_000),
				fc.array(fc.tuple(fc.nat(30), fc.nat(500_000)), { maxLength: 6 }),
				(a, b, r1, r2, had, wins) => {
					const won = new Map(wins);
					const made = (list: typeof a) => list.map((one) => deal(one.deal, one.amount, one.chance));
					const before = side(had, 700, r1, made(a));
					const more = [...won.values()].reduce((sum, amount) => sum + amount, 0);
					// What is won is no longer open.
					const after = side(had + more, 900, r2, made(b.filter((one) => !won.has(one.deal))));
					const steps = movesOf(before, after, won);
					expect(steps.map(({ key }) => key)).toEqual([...MOVES]);
					expect(before.mean + steps.reduce((sum, { amount }) => sum + amount, 0)).toBeCloseTo(after.mean, 3);
					for (const { key, amount, deals: own } of steps) if (key !== "rest") expect(own.reduce((sum, one) => sum + one.amount, 0)).toBeCloseTo(amount, 3);
					expect(steps.find(({ key }) => key === "chancesUp")?.amount).toBeGreaterThanOrEqual(0);
					expect(steps.find(({ key }) => key === "chancesDown")?.amount).toBeLessThanOrEqual(0);
				},
			),
		);
	});
});
