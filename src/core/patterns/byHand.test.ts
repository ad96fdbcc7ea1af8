import { describe, expect, test } from "vitest";
import { day, makeCompany, STAGES, type TestDeal } from "../../../tests/kit/company";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { closedWithin, meanSaid } from "./closed";
import { lateChanges, valuePath } from "./priced";
import { pushesWithin } from "./pushes";

// Reasons, price and pushes on deals small enough to count.
const TODAY = day("2026-11-24");
const surveyOf = (company: ReturnType<typeof makeCompany>, on = TODAY) => {
	const norms = normsOn(company, on);
	return { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
};
const won = (amounts: readonly [at: string, stage: string, amount: number | null][], more: Partial<TestDeal> = {}): TestDeal => ({
	versions: amounts.map(([at, stage, amount]) => ({ at, stage, amount, close: "2026-10-30" })),
	...more,
});

describe("what was closed within a year", () => {
	const company = makeCompany([
		won([
			["2026-06-01", "Survey", 100],
			["2026-10-02", "Terms", 100],
			["2026-10-12", "Won", 100],
		]),
		won([
			["2026-06-01", "Survey", 200],
			["2026-11-24", "Lost", 200],
		]),
		won([
			["2025-06-01", "Survey", 300],
			["2025-11-24", "Lost", 300],
		]),
		won([
			["2025-06-01", "Survey", 400],
			["2025-11-25", "Won", 400],
		]),
		won([["2026-06-01", "Won", 500]]),
		won([
			["2026-06-01", "Lost", 600],
			["2026-08-03", "Terms", 600],
		]),
	]);
	const found = closedWithin(company, surveyOf(company), null, TODAY);
	test("is what stands won or lost and was closed on the day itself or in the 364 before", () => {
		expect(found.map(({ seen }) => seen.deal)).toEqual([0, 1, 3, 4]);
	});
	test("says from which stage it went, and none where it never was open", () => {
		expect(found.map(({ from }) => STAGES[from] ?? "none")).toEqual(["Terms", "Survey", "Survey", "none"]);
	});
	test("is of those whose people are asked for", () => {
		expect(closedWithin(company, surveyOf(company), new Set([1]), TODAY)).toEqual([]);
		expect(closedWithin(company, surveyOf(company), new Set([0]), TODAY)).toHaveLength(4);
	});
	test("of a day before knows only what was closed by then", () => {
		const before = day("2026-10-11");
		expect(closedWithin(company, surveyOf(company, before), null, before).map(({ seen }) => seen.deal)).toEqual([2, 3, 4]);
	});
});

describe("a mean", () => {
	test("is said of five, and of fewer not", () => {
		expect(meanSaid([1, 2, 3, 4, 5])).toBe(3);
		expect(meanSaid([1, 2, 3, 4])).toBeNull();
		expect(meanSaid([])).toBeNull();
	});
});

describe("value along the path", () => {
	const path = (n: number) =>
		Array.from({ length: n }, (_, i) =>
			won([
				["2026-06-01", "Survey", 100 + i],
				// Corrected on the same evening: the day's end counts.
				["2026-07-01 09:00", "Terms", 999],
				["2026-07-01 17:00", "Terms", 200 + i],
				["2026-08-03", "Survey", 300],
				["2026-09-01", "Terms", 400],
				["2026-10-12", "Won", 150 + i],
			]),
		);
	const told = (n: number) => {
		const company = makeCompany(path(n));
		return valuePath(company, closedWithin(company, surveyOf(company), null, TODAY), TODAY);
	};
	test("is the mean at the end of the day each stage was first come to, and when won", () => {
		const { stages, won: end } = told(5);
		expect(stages.get(STAGES.indexOf("Survey"))).toEqual({ n: 5, mean: 102_00 });
		expect(stages.get(STAGES.indexOf("Terms"))).toEqual({ n: 5, mean: 202_00 });
		expect(end).toEqual({ n: 5, mean: 152_00 });
	});
	test("counts fewer than five, and says nothing of them", () => {
		expect(told(4).won).toEqual({ n: 4, mean: null });
	});
});

describe("what was given away late", () => {
	test("is the difference to ten working days before the win, of deals that were open and priced then", () => {
		const company = makeCompany([
			won([
				["2026-06-01", "Terms", 100],
				["2026-10-08", "Terms", 90],
				["2026-10-12", "Won", 88],
			]),
			// Cut before the last two weeks, blank in them, and not there yet.
			won([
				["2026-06-01", "Terms", 100],
				["2026-09-01", "Terms", 70],
				["2026-10-12", "Won", 70],
			]),
			won([
				["2026-06-01", "Terms", null],
				["2026-10-12", "Won", 50],
			]),
			won([
				["2026-10-06", "Terms", 80],
				["2026-10-12", "Won", 60],
			]),
		]);
		const late = lateChanges(company, closedWithin(company, surveyOf(company), null, TODAY), TODAY);
		expect(late.map(({ closed, before, after }) => [closed.seen.deal, before, after])).toEqual([
			[0, 100_00, 88_00],
			[1, 70_00, 70_00],
		]);
	});
});

describe("pushes", () => {
	test("are moves of an open deal’s date to a later day, by day-ends, and the month’s last three working days are told", () => {
		const company = makeCompany([
			{
				versions: [
					{ at: "2026-09-01", stage: "Survey", close: "2026-09-30" },
					{ at: "2026-09-28", close: "2026-10-15" },
					{ at: "2026-10-05", close: "2026-10-10" },
					{ at: "2026-10-06", close: null },
					{ at: "2026-10-07 09:00", close: "2026-12-31" },
					{ at: "2026-10-07 17:00", close: "2026-10-20" },
					{ at: "2026-11-02", stage: "Lost", close: "2026-11-30" },
				],
			},
		]);
		const found = pushesWithin(company, TODAY, 365).map(({ day: on, monthEnd }) => [on, monthEnd]);
		expect(found).toEqual([
			[day("2026-09-28"), true],
			[day("2026-10-07"), false],
		]);
		expect(pushesWithin(company, TODAY, 50)).toHaveLength(1);
	});
});
