import { expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { trend } from "./trend";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

test("each point holds what is open by stage and category, and what was won and lost so far", () => {
	const company = makeCompany([
		{
			versions: [
				{ at: "2026-10-05", amount: 100, close: "2026-12-01" },
				{ at: "2026-11-02", stage: "Terms", category: "commit" },
				{ at: "2026-11-16", stage: "Won", amount: 90 },
			],
		},
		{ versions: [{ at: "2026-10-20", amount: 50, close: "2026-12-01", category: "best_case" }] },
		{
			versions: [
				{ at: "2026-10-20", amount: 30, close: "2026-12-01" },
				{ at: "2026-11-03", stage: "Lost" },
			],
		},
		{
			versions: [
				{ at: "2026-10-20", amount: 70, close: "2027-02-01" },
				{ at: "2026-11-18", stage: "Lost", close: "2026-11-18" },
			],
		},
	]);
	const [october, early, late] = trend(company, [day("2026-10-12"), day("2026-11-09"), day("2026-11-23")], Q4, null);
	expect(october).toMatchObject({ count: 1, open: 10_000, weighted: 1000, won: 0, lost: 0 });
	expect(early).toMatchObject({ count: 2, open: 15_000, won: 0, lost: 3000, weighted: 8500 });
	expect(early?.byStage.slice(0, 5)).toEqual([5000, 0, 0, 0, 10_000]);
	expect(early?.byCategory).toEqual([10_000, 5000, 0, 0, 0]);
	expect(late).toMatchObject({ count: 1, open: 5000, won: 9000, lost: 3000, lostOutside: 7000 });
	for (const point of [october, early, late]) expect(point?.byStage.reduce((a, b) => a + b, 0)).toBe(point?.open);
});
