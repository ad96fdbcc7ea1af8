import { expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { quarterOf } from "../time/period";
import { madeWithin } from "./madeWithin";

const Q3 = quarterOf(day("2026-08-01"), 1);
/** Deals that are made on days of July 2026 and won in September; the first of them before the quarter. */
const company = (made: readonly string[]) =>
	makeCompany(
		["2026-06-30", ...made].map((on, i) => ({
			id: `d${i}`,
			versions: [
				{ at: on, stage: "Enquiry", amount: 100, close: "2026-09-15" },
				{ at: "2026-09-15", stage: "Won", amount: 100, close: "2026-09-15" },
			],
		})),
	);
const days = (n: number) => Array.from({ length: n }, (_, i) => `2026-07-${String(1 + i).padStart(2, "0")}`);

test("the last of few, nine of ten of many, nothing of too few; what was made before the quarter isn’t among them", () => {
	const of = (n: number) => madeWithin(company(days(n)), [Q3], day("2026-11-24"));
	expect(of(4)).toEqual({ wins: 4, periods: 1, workingDay: null, all: true });
	// 1 July 2026 is a Wednesday: the 6th is the quarter's fourth working day.
	expect(of(6)).toEqual({ wins: 6, periods: 1, workingDay: 4, all: true });
	// The 18th of twenty was made on Saturday the 18th, which counts as Friday: the 13th working day.
	expect(of(20)).toEqual({ wins: 20, periods: 1, workingDay: 13, all: false });
});
test("what wasn’t won yet on the day doesn’t count", () => {
	expect(madeWithin(company(days(6)), [Q3], day("2026-09-14")).wins).toBe(0);
});
