import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { histories, RATES as rates } from "../../../tests/kit/histories";
import { bridge } from "../bridge/bridge";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { addUpByOwner, countByOwner, countedOf, packCounts } from "./countByOwner";
import { countByPart, splitBy } from "./countByPart";
import { type Counted, KINDS, nothingCounted } from "./counted";
import { differencesOf, figuresOf } from "./figures";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const D = day("2026-11-24");
const count = (deals: TestDeal[], on = D, given = {}) => {
	const company = makeCompany(deals, given);
	const norms = normsOn(company, on);
	const survey = { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
	return { company, survey, byOwner: countByOwner(company, survey, Q4, on) };
};
const open = (amount: number | null, close: string | null, rest: Partial<TestDeal["versions"][number]> = {}): TestDeal => ({
	versions: [{ at: "2026-09-01", amount, close, ...rest }],
});
const closed = (stage: "Won" | "Lost", on: string, amount: number, owner = 0): TestDeal => ({
	versions: [
		{ at: "2026-09-01", amount, owner, close: "2027-03-01" },
		{ at: on, stage, close: on },
	],
});

describe("what a period holds", () => {
	test("each deal is of one kind, by its status and its day", () => {
		const { byOwner } = count([
			open(100, "2026-12-01", { category: "commit", stage: "Terms" }),
			open(200, "2026-12-31", { category: "best_case" }),
			open(300, "2026-10-01", { category: "left_out" }),
			open(null, "2026-12-05"),
			open(5, "2026-09-30"),
			open(6, "2027-01-01"),
			open(7, null),
			closed("Won", "2026-10-01", 1000),
			closed("Lost", "2026-11-20", 50),
			// Closed outside the period, and on a day to come.
			closed("Won", "2026-09-30", 9999),
			closed("Won", "2026-11-25", 8888),
		]);
		const figures = figuresOf(countedOf(byOwner, null), 300_000);
		expect(figures).toMatchObject({
			won: { count: 1, amount: 100_000 },
			lost: { count: 1, amount: 5000 },
			open: { count: 4, amount: 60_000 },
			leftBehind: { count: 1, amount: 500 },
			later: { count: 2, amount: 889_400 },
			undated: { count: 1, amount: 700 },
			categories: { commit: { count: 1, amount: 10_000 }, best_case: { amount: 20_000 }, pipeline: { count: 1, amount: 0 }, left_out: { amount: 30_000 } },
			weighted: 8000 + 2000 + 3000,
			gap: 200_000,
			cover: 0.3,
			commitCover: 0.05,
			needed: 200_000 / 60_000,
			winRate: { count: 0.5, amount: 100_000 / 105_000 },
			averageWon: 100_000,
		});
		expect(figures.attention.act + figures.attention.watch + figures.attention.calm).toBe(4);
	});
	test("takes every amount at the rates of the day it is counted for", () => {
		const given = {
			rates: [
				["GBP", "2026-01-01", "1.10"],
				["GBP", "2026-11-20", "1.30"],
			],
		};
		const { byOwner } = count([open(100, "2026-12-01", { currency: "GBP" })], D, given);
		expect(countedOf(byOwner, null).open.amount).toBe(13_000);
	});
	test("rates are null over nothing, and a target that is reached has no gap to be covered", () => {
		expect(figuresOf(nothingCounted(), null)).toMatchObject({
			target: null,
			gap: null,
			cover: null,
			needed: null,
			winRate: { count: null, amount: null },
			averageWon: null,
			averageCycle: null,
		});
		expect(figuresOf(nothingCounted(), 100)).toMatchObject({ gap: 100, cover: 0, needed: null });
		const won = { ...nothingCounted(), won: { count: 3, amount: 500 }, wonAge: 100 };
		expect(figuresOf(won, 100)).toMatchObject({ gap: 0, cover: null, commitCover: null, averageWon: 167, averageCycle: 33.3 });
		expect(figuresOf(won, 0)).toMatchObject({ target: 0, gap: 0 });
	});
	test("the average cycle is the mean deal age in working days, half away from zero", () => {
		// Created on a Tuesday; won 22 and 43 working days later.
		const { byOwner } = count([closed("Won", "2026-10-01", 1), closed("Won", "2026-10-30", 1)]);
		expect(figuresOf(countedOf(byOwner, null), null).averageCycle).toBe(32.5);
	});
	test("what changed is the difference figure by figure, null where one is missing", () => {
		const [later, earlier] = [figuresOf({ ...nothingCounted(), won: { count: 2, amount: 70 } }, 100), figuresOf(nothingCounted(), null)];
		expect(differencesOf(later, earlier)).toMatchObject({ won: { count: 2, amount: 70 }, target: null, gap: null, weighted: 0, averageWon: null });
	});
});

describe("laws of a period", () => {
	const addsUp = (whole: Counted, parts: readonly Counted[]) => {
		for (const kind of KINDS) {
			expect(parts.reduce((sum, part) => sum + part[kind].amount, 0)).toBe(whole[kind].amount);
			expect(parts.reduce((sum, part) => sum + part[kind].count, 0)).toBe(whole[kind].count);
		}
		expect(parts.reduce((sum, part) => sum + part.weighted, 0)).toBe(whole.weighted);
		expect(parts.reduce((sum, part) => sum + part.attention.act, 0)).toBe(whole.attention.act);
	};
	test("people and unowned add up to the whole; categories and levels to what is open", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				const { byOwner } = count(deals, D, { rates });
				const whole = countedOf(byOwner, null);
				addsUp(whole, [...[0, 1, 2, 3, 4].map((person) => countedOf(byOwner, new Set([person]))), byOwner.unowned]);
				expect(Object.values(whole.categories).reduce((sum, part) => sum + part.amount, 0)).toBe(whole.open.amount);
				expect(Object.values(whole.categories).reduce((sum, part) => sum + part.count, 0)).toBe(whole.open.count);
				expect(whole.attention.act + whole.attention.watch + whole.attention.calm).toBe(whole.open.count);
			}),
		);
	});
	test("shares of a deal add up to its amount, also where they can’t be equal", () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 0, max: 9_000_000_000 }),
				fc.array(fc.double({ min: 0, max: 1e7, noNaN: true }), { minLength: 1, maxLength: 7 }),
				(amount, weights) => {
					const parts = splitBy(amount, weights);
					expect(parts.reduce((sum, part) => sum + part, 0)).toBe(amount);
					expect(parts.every((part) => part >= 0)).toBe(true);
				},
			),
		);
	});
	test("parts of any kind add up in amount to the whole of the same people", () => {
		fc.assert(
			fc.property(histories, fc.constantFrom(null, new Set([0, 2])), (deals, scope) => {
				const { company, survey, byOwner } = count(deals, D, { rates });
				const parts = countByPart(company, survey, Q4, D, scope, ({ deal }) => [
					{ part: deal % 2, weight: 2 },
					{ part: 7, weight: deal },
				]);
				const sum = (kind: (typeof KINDS)[number]) => [...parts.values()].reduce((total, part) => total + part[kind].amount, 0);
				for (const kind of KINDS) expect(sum(kind)).toBe(countedOf(byOwner, scope)[kind].amount);
			}),
		);
	});
	test("what is open is the bridge’s closing of that day", () => {
		fc.assert(
			fc.property(histories, fc.constantFrom(null, new Set([0]), new Set([1, 2])), (deals, scope) => {
				const { company, byOwner } = count(deals, D, { rates });
				const { closing } = bridge(company, day("2026-11-09"), D, Q4, scope);
				expect(countedOf(byOwner, scope).open).toEqual({ count: closing.deals.length, amount: closing.amount });
			}),
		);
	});
	test("counting parts of the deals and adding them up is counting all of them", () => {
		fc.assert(
			fc.property(histories, fc.integer({ min: 1, max: 4 }), (deals, parts) => {
				const { company, survey, byOwner } = count(deals, D, { rates });
				const part = (at: number) => ({ deals: survey.deals.filter((_, i) => i % parts === at) });
				const counted = Array.from({ length: parts }, (_, at) => countByOwner(company, part(at), Q4, D));
				expect(addUpByOwner(counted.map(packCounts), company.people.length)).toEqual(byOwner);
			}),
		);
	});
});
