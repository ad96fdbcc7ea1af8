import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { MOVES, movesOf } from "./moved";

const deal = (id: number, worth: number, chance: number, due = true) => ({ deal: id, worth, chance, due });
/** A side as an outlook has it: its mean is what its parts make. */
const side = (won: number, fresh: number, deals: ReturnType<typeof deal>[]) => ({
	won,
	fresh,
	deals,
	mean: won + fresh + deals.reduce((sum, one) => sum + one.chance * one.worth, 0),
});

describe("the bridge of a mean", () => {
	test("of a hand-made case", () => {
		// 1 is won at 110 of 100; 2 goes; 3 rises from a half to 0.8; 4 comes; 5 loses a fifth of its amount; 6 is pulled in; 7 is pushed out; 8 was dated elsewhere and is won.
		const before = side(1000, 50, [
			deal(1, 100, 0.6),
			deal(2, 200, 0.25),
			deal(3, 300, 0.5),
			deal(5, 500, 0.4),
			deal(6, 100, 0.1, false),
			deal(7, 100, 0.5),
			deal(8, 40, 0.25, false),
		]);
		const after = side(1150, 40, [deal(3, 300, 0.8), deal(4, 80, 0.5), deal(5, 400, 0.4), deal(6, 100, 0.7), deal(7, 100, 0.1, false)]);
		const won = new Map([
			[1, 110],
			[8, 40],
		]);
		const steps = Object.fromEntries(movesOf(before, after, won).map(({ key, amount }) => [key, amount]));
		expect(steps.won).toBeCloseTo(50 + 30);
		expect(steps.gone).toBeCloseTo(-50 - 50);
		expect(steps.new).toBeCloseTo(40 + 70);
		expect(steps.chancesUp).toBeCloseTo(90);
		expect(steps.chancesDown).toBeCloseTo(0);
		expect(steps.amounts).toBeCloseTo(-40);
		expect(steps.elsewhere).toBeCloseTo(-10 + 10);
		expect(steps.fresh).toBe(-10);
	});
	test("is told in its order, and of each step the deal that adds most first, whichever way; of equal ones the first", () => {
		const before = side(0, 0, [deal(1, 100, 0.5), deal(2, 900, 0.5), deal(3, 300, 0.5), deal(4, 300, 0.5), deal(6, 100, 0.5)]);
		const after = side(0, 0, [deal(1, 200, 0.5), deal(2, 200, 0.5), deal(6, 200, 0.5)]);
		const steps = movesOf(before, after, new Map());
		expect(steps.map(({ key }) => key)).toEqual(["won", "new", "gone", "chancesUp", "chancesDown", "amounts", "elsewhere", "fresh"]);
		expect(steps.find(({ key }) => key === "amounts")?.deals).toEqual([
			{ deal: 2, amount: -350 },
			{ deal: 1, amount: 50 },
			{ deal: 6, amount: 50 },
		]);
		expect(steps.find(({ key }) => key === "gone")?.deals.map((one) => one.deal)).toEqual([3, 4]);
	});
	test("adds up to the difference, whatever came and went", () => {
		const deals = fc.uniqueArray(
			fc.record({ id: fc.nat(30), worth: fc.integer({ min: 0, max: 1_000_000 }), chance: fc.double({ min: 0, max: 1, noNaN: true }), due: fc.boolean() }),
			{ selector: (one) => one.id, maxLength: 20 },
		);
		const wins = fc.array(fc.tuple(fc.nat(30), fc.nat(500_000)), { maxLength: 6 });
		fc.assert(
			fc.property(deals, deals, fc.nat(1_000_000), wins, (a, b, had, list) => {
				const won = new Map(list);
				const made = (some: typeof a) => some.map((one) => deal(one.id, one.worth, one.chance, one.due));
				const before = side(had, 700, made(a));
				const more = [...won.values()].reduce((sum, amount) => sum + amount, 0);
				// What is won is no longer open.
				const after = side(had + more, 900, made(b.filter((one) => !won.has(one.id))));
				const steps = movesOf(before, after, won);
				expect(steps.map(({ key }) => key)).toEqual([...MOVES]);
				expect(before.mean + steps.reduce((sum, { amount }) => sum + amount, 0)).toBeCloseTo(after.mean, 3);
				for (const { key, amount, deals: own } of steps) if (key !== "fresh") expect(own.reduce((sum, one) => sum + one.amount, 0)).toBeCloseTo(amount, 3);
				expect(steps.find(({ key }) => key === "chancesUp")?.amount).toBeGreaterThanOrEqual(0);
				expect(steps.find(({ key }) => key === "chancesDown")?.amount).toBeLessThanOrEqual(0);
			}),
		);
	});
});
