import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { CATEGORIES } from "../history/columns";
import { nothingCounted } from "./counted";
import { figuresOf } from "./figures";
import { applyMoves, type Move, type TriedDeal } from "./try";

const deal = (id: string, amount: number, rest: Partial<TriedDeal> = {}): TriedDeal => ({
	id,
	amount,
	category: "pipeline",
	probability: { units: 5, scale: 1 },
	stage: "Survey",
	owner: "ann",
	level: "calm",
	flags: [],
	...rest,
});
const real = { ...nothingCounted(), won: { count: 1, amount: 1000 } };
const DEALS = [
	deal("a", 400, { category: "commit", flags: ["no-signatory"] }),
	deal("b", 300, { category: "best_case", owner: "ben" }),
	deal("c", 301, { category: "best_case", level: "act" }),
];
const move = (field: Move["whom"]["field"], value: string, what: Move["what"], percent = 100): Move => ({
	whom: { field, value } as Move["whom"],
	what,
	percent,
});

describe("a try", () => {
	test("without moves is the period as it is", () => {
		const { counted } = applyMoves(real, DEALS, []);
		expect(counted).toMatchObject({ won: { count: 1, amount: 1000 }, open: { count: 3, amount: 1001 }, weighted: 200 + 150 + 151 });
	});
	test("wins, drops, pushes and prices single deals and whole groups, by share", () => {
		expect(applyMoves(real, DEALS, [move("deal", "a", "win")]).counted).toMatchObject({ won: { count: 2, amount: 1400 }, open: { count: 2, amount: 601 } });
		expect(applyMoves(real, DEALS, [move("category", "best_case", "win", 50)])).toMatchObject({
			counted: { won: { amount: 1000 + 150 + 151 }, categories: { best_case: { count: 2, amount: 300 } } },
			met: [2],
		});
		expect(applyMoves(real, DEALS, [move("flag", "no-signatory", "drop")])).toMatchObject({
			dropped: 400,
			counted: { open: { count: 2 }, lost: { amount: 400 } },
		});
		expect(applyMoves(real, DEALS, [move("owner", "ben", "push")])).toMatchObject({ pushed: 300, counted: { later: { amount: 300 } } });
		expect(applyMoves(real, DEALS, [move("level", "act", "price", 90)]).counted.open.amount).toBe(400 + 300 + 271);
		expect(applyMoves(real, DEALS, [move("stage", "Survey", "price", 110), move("deal", "a", "win")]).counted.won.amount).toBe(1440);
	});
	test("that meets no deal changes nothing and says so", () => {
		const result = applyMoves(real, DEALS, [move("deal", "closed meanwhile", "win")]);
		expect(result.met).toEqual([0]);
		expect(result.counted).toEqual(applyMoves(real, DEALS, []).counted);
	});
	test("of later moves takes only what earlier ones left open", () => {
		expect(applyMoves(real, DEALS, [move("deal", "a", "win", 50), move("deal", "a", "drop")])).toMatchObject({
			dropped: 200,
			counted: { won: { amount: 1200 } },
		});
		expect(applyMoves(real, DEALS, [move("deal", "a", "drop"), move("deal", "a", "win")]).counted.won.amount).toBe(1000);
	});
	test("loses no cent: what is won, dropped, pushed and open is what there was, at its price", () => {
		const deals = fc.array(fc.record({ amount: fc.integer({ min: 0, max: 1e9 }), category: fc.constantFrom(...CATEGORIES) }), { maxLength: 20 });
		const moves = fc.array(
			fc.record({
				whom: fc.record({ field: fc.constant("category" as const), value: fc.constantFrom(...CATEGORIES) }),
				what: fc.constantFrom("win", "drop", "push", "price"),
				percent: fc.integer({ min: 1, max: 200 }),
			}),
			{ maxLength: 6 },
		);
		fc.assert(
			fc.property(deals, moves, (given, list) => {
				const all = given.map((one, i) => deal(String(i), one.amount, { category: one.category }));
				const result = applyMoves(real, all, list as Move[]);
				result.deals.forEach((one, i) => {
					expect(one.won + one.dropped + one.pushed + one.open).toBe((all[i]?.amount ?? 0) + one.priced);
					expect(Math.min(one.won, one.dropped, one.pushed, one.open)).toBeGreaterThanOrEqual(0);
				});
				const { counted } = result;
				expect(Object.values(counted.categories).reduce((sum, part) => sum + part.amount, 0)).toBe(counted.open.amount);
				expect(figuresOf(counted, 5000).gap).toBe(Math.max(0, 5000 - counted.won.amount));
			}),
		);
	});
});
