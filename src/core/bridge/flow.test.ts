import { expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { stageFlow } from "./flow";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

test("the grid says from where to where each deal of the period went, and what it is worth now", () => {
	const company = makeCompany([
		{
			versions: [
				{ at: "2026-09-01", amount: 10, close: "2026-12-01" },
				{ at: "2026-11-12", stage: "Trial", amount: 12 },
			],
		},
		{
			versions: [
				{ at: "2026-09-01", amount: 20, close: "2026-12-01" },
				{ at: "2026-11-12", stage: "Trial" },
			],
		},
		{ versions: [{ at: "2026-11-12", amount: 5, close: "2026-12-01" }] },
		{
			versions: [
				{ at: "2026-09-01", amount: 7, close: "2026-12-01" },
				{ at: "2026-11-12", close: "2027-03-01" },
			],
		},
		{
			versions: [
				{ at: "2026-09-01", amount: 9, close: "2026-12-01", stage: "Terms" },
				{ at: "2026-11-12", stage: "Won" },
			],
		},
		{ versions: [{ at: "2026-09-01", amount: 99, close: "2027-12-01" }] },
	]);
	const cells = stageFlow(company, day("2026-11-09"), day("2026-11-24"), Q4, null).map((c) => [c.from, c.to, c.count, c.amount / 100]);
	expect(cells).toEqual([
		["Enquiry", "Trial", 2, 32],
		["not yet there", "Enquiry", 1, 5],
		["Enquiry", "outside the period", 1, 7],
		["Terms", "won", 1, 9],
	]);
});
