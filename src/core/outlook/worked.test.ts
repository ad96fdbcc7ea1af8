import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { formatDay } from "../time/day";
import { comparablesOf, groundSteps, outlookSteps, whyNone } from "./outlook";
import { kindOf } from "./past";

// The outlook by hand: three past quarters with one deal each, of one kind.
const TODAY = day("2026-11-24");
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

function through<R>(steps: Generator<undefined, R>): R {
	for (;;) {
		const { done, value } = steps.next();
		if (done) return value;
	}
}
const surveyOf = (company: ReturnType<typeof makeCompany>, on = TODAY) => {
	const norms = normsOn(company, on);
	return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
};

/** A deal due at the end of a quarter that begins with a month, and what becomes of it in its last days. */
const due = (month: string, end: "Won" | "Lost", amount = 1000, more: Partial<TestDeal> = {}): TestDeal => {
	const last = `${month.slice(0, 5)}${String(Number(month.slice(5)) + 2).padStart(2, "0")}`;
	return {
		created: `${month}-05`,
		versions: [
			{ at: `${month}-05`, stage: "Survey", amount, close: `${last}-25`, category: "commit" },
			{ at: `${last}-28`, stage: end },
		],
		...more,
	};
};
const OPEN: TestDeal = { created: "2026-10-05", versions: [{ at: "2026-10-05", stage: "Survey", amount: 2000, close: "2026-12-18", category: "commit" }] };
const outlookOf = (deals: TestDeal[], target: number | null = null) => {
	const company = makeCompany(deals);
	const found = through(outlookSteps(company, surveyOf(company), Q4, null, TODAY, target, "by hand"));
	if (!found) throw new Error(whyNone(company, Q4, TODAY) ?? "no outlook");
	return { company, ...found };
};

describe("three quarters by hand", () => {
	const deals = [due("2026-01", "Won"), due("2026-04", "Won"), due("2026-07", "Lost"), OPEN];
	const found = outlookOf(deals);
	test("are the periods it rests on, the latest first, each looked at as far before its end", () => {
		expect(found.periods.map(({ period, comparables, won }) => [formatDay(period.end), comparables, won])).toEqual([
			["2026-09-30", 1, 0],
			["2026-06-30", 1, 1],
			["2026-03-31", 1, 1],
		]);
		const { calendar } = found.company.rules;
		for (const { period, day: on } of found.periods) expect(calendar.between(on, period.end)).toBe(calendar.between(TODAY, Q4.end));
	});
	test("give the open deal its chance in four steps", () => {
		// Three comparables, two won, alike in everything: (2 + 1)/(3 + 2), and then (2 + 8p)/(3 + 8) four times.
		let p = 3 / 5;
		for (let i = 0; i < 4; i++) p = (2 + 8 * p) / 11;
		const [open] = found.deals;
		expect(open?.chance).toBeCloseTo(p, 12);
		expect(open?.steps).toEqual(Array(5).fill({ n: 3, won: 2 }));
		// Fewer than eight at every depth: what it opens are all comparables.
		expect(open?.depth).toBe(0);
		expect(found.mean).toBeCloseTo(p * 2000_00, 6);
		expect(open?.swing).toBeCloseTo(p * (1 - p) * 2000_00 ** 2, 2);
	});
	test("are scored by what the other two would have said: the Brier score beside that of the stages", () => {
		// The two that were won: one won and one lost of the others, a half at each step. The lost one: both others won.
		let p = 3 / 4;
		for (let i = 0; i < 4; i++) p = (2 + 8 * p) / 10;
		expect(p).toBeCloseTo(0.8976, 10);
		expect(found.record.brier).toBeCloseTo((0.25 + 0.25 + p ** 2) / 3, 12);
		// A survey's own probability is a quarter.
		expect(found.record.baseline).toBeCloseTo((0.75 ** 2 + 0.75 ** 2 + 0.25 ** 2) / 3, 12);
	});
	test("stand in the fifths of their chances with what came", () => {
		const told = found.record.calibration.filter(({ n }) => n > 0).map(({ from, n, share }) => [from, n, share]);
		expect(told).toEqual([
			[0.4, 2, 1],
			[0.8, 1, 0],
		]);
	});
	test("say for each past quarter whether its total lay in the band that the others would have drawn", () => {
		expect(found.record.periods.map(({ total }) => total)).toEqual([0, 1000_00, 1000_00]);
		for (const { low, high, total, inside } of found.record.periods) {
			// A single deal is won or not: the band reaches from nothing to it.
			expect([0, 1000_00]).toContain(low);
			expect(high).toBe(1000_00);
			expect(inside).toBe(total >= low && total <= high);
		}
	});
});

describe("what isn’t in sight", () => {
	test("is what was won of deals that came after the day looked at, as a mean of the past", () => {
		const late: TestDeal = {
			created: "2026-09-10",
			versions: [
				{ at: "2026-09-10", stage: "Survey", amount: 600, close: "2026-09-25" },
				{ at: "2026-09-20", stage: "Won" },
			],
		};
		const found = outlookOf([due("2026-01", "Won"), due("2026-04", "Won"), due("2026-07", "Lost"), late, OPEN]);
		expect(found.rest).toBeCloseTo(600_00 / 3, 6);
		expect(found.record.periods[0]?.total).toBe(600_00);
	});
	test("is never less than nothing, even where what was won then isn’t won any more", () => {
		const undone: TestDeal = {
			created: "2026-07-05",
			versions: [
				{ at: "2026-07-05", stage: "Survey", amount: 900, close: "2026-08-01" },
				{ at: "2026-08-03", stage: "Won" },
				{ at: "2026-09-20", stage: "Terms", close: "2026-11-30" },
			],
		};
		const found = outlookOf([due("2026-01", "Won"), due("2026-04", "Won"), due("2026-07", "Lost"), undone]);
		expect(found.rest).toBe(0);
		expect(found.record.periods[0]?.total).toBe(0);
	});
});

describe("amounts", () => {
	test("are scaled by what won comparables came to against what they were", () => {
		const cut = due("2026-07", "Won", 1000);
		cut.versions[1] = { ...cut.versions[1], at: "2026-09-28", amount: 800 };
		const found = outlookOf([due("2026-01", "Won"), due("2026-04", "Lost"), cut, OPEN]);
		expect(found.amountRatio).toBeCloseTo(1800 / 2000, 12);
		const [open] = found.deals;
		expect(found.mean).toBeCloseTo((open?.chance ?? 0) * 2000_00 * 0.9, 6);
	});
	test("that are blank count as nothing, and decide nothing", () => {
		const blank: TestDeal = { ...OPEN, versions: [{ ...OPEN.versions[0], at: "2026-10-05", amount: null }] };
		const found = outlookOf([due("2026-01", "Won"), due("2026-04", "Won"), due("2026-07", "Lost"), OPEN, blank]);
		expect(found.deals.map(({ amount, decides }) => [amount, decides])).toEqual([
			[2000_00, true],
			[0, false],
		]);
	});
});

describe("a target", () => {
	const deals = [due("2026-01", "Won"), due("2026-04", "Won"), due("2026-07", "Lost"), OPEN];
	test("is reached in the share of draws that come to it", () => {
		const found = outlookOf(deals, 2000_00);
		// All or nothing: the chance of the target is about that of the one deal.
		expect(Math.abs((found.chanceOfTarget ?? 0) - (found.deals[0]?.chance ?? 0))).toBeLessThan(0.02);
		expect(outlookOf(deals, 0).chanceOfTarget).toBe(1);
		expect(outlookOf(deals, 2000_01).chanceOfTarget).toBe(0);
	});
});

describe("the comparables of a deal", () => {
	const deals = [
		...["2026-01", "2026-04", "2026-07"].flatMap((month) => Array.from({ length: 4 }, (_, i) => due(month, i < 3 ? "Won" : "Lost", 1000 + i))),
		...["2026-01", "2026-04", "2026-07"].map((month) => {
			const other = due(month, "Lost");
			other.versions[0] = { ...other.versions[0], at: `${month}-05`, category: "pipeline" };
			return other;
		}),
		OPEN,
	];
	const company = makeCompany(deals);
	const survey = surveyOf(company);
	const ground = through(groundSteps(company, survey, Q4, null, TODAY));
	test("are as many, and as many of them won, as its step says, at each depth", () => {
		const [open] = ground?.deals ?? [];
		const seen = open && survey.deals[open.deal];
		if (!open || !seen) throw new Error("nothing is open");
		const kind = kindOf(company, seen);
		open.steps.forEach(({ n, won }, depth) => {
			const alike = comparablesOf(company, Q4, TODAY, kind, depth);
			expect([alike.length, alike.filter((one) => one.won).length]).toEqual([n, won]);
		});
		expect(open.steps[0]).toEqual({ n: 15, won: 9 });
		expect(open.steps[2]).toEqual({ n: 12, won: 9 });
		expect(open.depth).toBeGreaterThanOrEqual(2);
	});
	test("get fewer with each value that has to agree", () => {
		for (const { steps } of ground?.deals ?? []) for (let i = 1; i < steps.length; i++) expect(steps[i]?.n).toBeLessThanOrEqual(steps[i - 1]?.n ?? 0);
	});
});

describe("the mean on the days of a quarter", () => {
	test("is what is won once the quarter is at its end and nothing is open", () => {
		// A past period counts where any deal is open on the day looked at, due in it or not.
		const lasting: TestDeal = { created: "2025-12-01", versions: [{ at: "2025-12-01", stage: "Survey", amount: 5, close: "2031-01-31" }] };
		const deals = [due("2026-01", "Won"), due("2026-04", "Won"), due("2026-07", "Lost"), due("2026-10", "Won", 1500), lasting];
		const company = makeCompany(deals);
		const ground = through(groundSteps(company, surveyOf(company, Q4.end), Q4, null, Q4.end));
		expect([ground?.won, ground?.deals.length]).toEqual([1500_00, 0]);
		expect(ground?.mean).toBe(1500_00 + (ground?.rest ?? 0));
		expect(whyNone(company, Q4, Q4.end + 1)).toBe("The period is over.");
	});
});
