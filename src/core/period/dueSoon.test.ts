import { expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { formatDay } from "../time/day";
import { tooEarly, weeksAhead } from "./dueSoon";

test("this week ends on its Sunday, and the next is the seven days after", () => {
	const told = (on: string) => weeksAhead(day(on)).map(({ start, end }) => [formatDay(start), formatDay(end)]);
	expect(told("2026-11-24")).toEqual([
		["2026-11-24", "2026-11-29"],
		["2026-11-30", "2026-12-06"],
	]);
	expect(told("2026-11-29")).toEqual([
		["2026-11-29", "2026-11-29"],
		["2026-11-30", "2026-12-06"],
	]);
});

test("a stage is too early where fewer working days are left than usually remain, less what the deal has stood in it", () => {
	const early = (stage: string, close: string, on: string) => {
		const deal: TestDeal = { versions: [{ at: "2026-03-02", stage, close }] };
		const company = makeCompany([deal]);
		const norms = normsOn(company, day(on));
		const seen = inspect(company, 0, norms);
		return seen && tooEarly(company, norms, seen, day(on));
	};
	// From Proposal twenty working days usually remain: two stages of ten.
	expect(early("Proposal", "2026-03-27", "2026-03-02")).toEqual({ left: 19, needed: 20 });
	expect(early("Proposal", "2026-03-30", "2026-03-02")).toBeNull();
	// Five of them have passed.
	expect(early("Proposal", "2026-03-27", "2026-03-09")).toEqual({ left: 14, needed: 15 });
	expect(early("Terms", "2026-03-16", "2026-03-02")).toBeNull();
	expect(early("Enquiry", "2026-03-16", "2026-03-02")).toEqual({ left: 10, needed: 50 });
	// Longer in it than usually remains: nothing more is needed.
	expect(early("Terms", "2026-03-31", "2026-03-30")).toBeNull();
});
