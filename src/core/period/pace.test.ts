import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { histories, RATES as rates } from "../../../tests/kit/histories";
import { makeCalendar } from "../time/calendar";
import { formatDay } from "../time/day";
import { quarterAt, quarterIndex, quarterOf } from "../time/period";
import { dayOfWorkingDay, paceOf, periodBefore, sumOf, winsIn, wonByWorkingDay, workingDayOf, yearBefore } from "./pace";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const D = day("2026-11-24");
const period = (start: string, end: string) => ({ start: day(start), end: day(end) });
const told = ({ start, end }: { start: number; end: number }) => [formatDay(start), formatDay(end)];

describe("working days of a period", () => {
	const plain = makeCalendar([0, 6], []);
	test("of the worked example: day 39 of 66, in the third quarter 24 August, a year before 24 November", () => {
		expect(workingDayOf(plain, Q4, D)).toBe(39);
		expect(workingDayOf(plain, Q4, Q4.end)).toBe(66);
		expect(formatDay(dayOfWorkingDay(plain, period("2026-07-01", "2026-09-30"), 39))).toBe("2026-08-24");
		expect(formatDay(dayOfWorkingDay(plain, period("2025-10-01", "2025-12-31"), 39))).toBe("2025-11-24");
	});
	test("before it none, after it all; holidays count for nothing", () => {
		expect(workingDayOf(plain, Q4, day("2026-09-20"))).toBe(0);
		expect(workingDayOf(plain, Q4, day("2027-02-01"))).toBe(66);
		const holidays = makeCalendar([0, 6], [day("2026-10-05"), day("2026-10-03"), day("2026-12-25")]);
		expect(workingDayOf(holidays, Q4, day("2026-10-05"))).toBe(2);
		expect(workingDayOf(holidays, Q4, Q4.end)).toBe(64);
		expect(formatDay(dayOfWorkingDay(holidays, Q4, 3))).toBe("2026-10-06");
		expect(dayOfWorkingDay(holidays, Q4, 0)).toBe(Q4.start);
		expect(dayOfWorkingDay(holidays, Q4, 99)).toBe(Q4.end);
	});
	test("the day of a working day is the first that has so many", () => {
		fc.assert(
			fc.property(fc.array(fc.integer({ min: Q4.start, max: Q4.end }), { maxLength: 9 }), fc.integer({ min: 1, max: 60 }), (free, k) => {
				const calendar = makeCalendar([0, 6], free);
				const on = dayOfWorkingDay(calendar, Q4, k);
				fc.pre(k <= workingDayOf(calendar, Q4, Q4.end));
				expect(workingDayOf(calendar, Q4, on)).toBe(k);
				expect(workingDayOf(calendar, Q4, on - 1)).toBe(k - 1);
			}),
		);
	});
});

describe("the periods to compare with", () => {
	test("before a quarter the quarter, before a month the month, before any other as many days", () => {
		expect(told(periodBefore(Q4, 1))).toEqual(["2026-07-01", "2026-09-30"]);
		expect(told(periodBefore(period("2026-02-01", "2026-04-30"), 2))).toEqual(["2025-11-01", "2026-01-31"]);
		expect(told(periodBefore(period("2026-03-01", "2026-03-31"), 1))).toEqual(["2026-02-01", "2026-02-28"]);
		expect(told(periodBefore(period("2026-11-10", "2026-11-20"), 1))).toEqual(["2026-10-30", "2026-11-09"]);
		expect(told(periodBefore(period("2026-11-10", "2026-11-10"), 1))).toEqual(["2026-11-09", "2026-11-09"]);
		// Three months that are no fiscal quarter are days.
		expect(told(periodBefore(period("2026-11-01", "2027-01-31"), 1))).toEqual(["2026-08-01", "2026-10-31"]);
	});
	test("a year before both ends; 29 February becomes the 28th", () => {
		expect(told(yearBefore(Q4))).toEqual(["2025-10-01", "2025-12-31"]);
		expect(told(yearBefore(period("2024-02-29", "2024-03-31")))).toEqual(["2023-02-28", "2023-03-31"]);
		expect(told(yearBefore(period("2025-02-28", "2025-02-28")))).toEqual(["2024-02-28", "2024-02-28"]);
	});
	test("quarters follow each other without a gap", () => {
		fc.assert(
			fc.property(fc.integer({ min: -20_000, max: 40_000 }), fc.integer({ min: 1, max: 12 }), (on, fiscal) => {
				const own = quarterOf(on, fiscal);
				expect(periodBefore(own, fiscal)).toEqual(quarterAt(quarterIndex(on, fiscal) - 1, fiscal));
				expect(periodBefore(own, fiscal).end).toBe(own.start - 1);
			}),
		);
	});
});

const won = (on: string, amount: number, owner = 0): TestDeal => ({
	created: "2025-01-02",
	versions: [
		{ at: "2025-01-02", amount, owner, close: "2026-12-31" },
		{ at: on, stage: "Won", close: on },
	],
});

describe("pace", () => {
	test("is what one knew on the same working day of the period before and a year ago", () => {
		const company = makeCompany([
			won("2026-11-02", 100),
			won("2026-08-24", 40),
			won("2026-08-25", 4000),
			won("2025-11-24", 7),
			// Known to be won then, and lost after all later.
			{ versions: [...won("2026-07-15", 30).versions, { at: "2026-09-01", stage: "Lost" }] },
		]);
		const pace = paceOf(company, Q4, null, D);
		expect(pace).toMatchObject({ workingDay: 39, workingDays: 66 });
		expect(pace.previous).toMatchObject({ ...period("2026-07-01", "2026-09-30"), day: day("2026-08-24"), won: { count: 2, amount: 7000 } });
		expect(pace.yearAgo).toMatchObject({ day: day("2025-11-24"), won: { count: 1, amount: 700 } });
		expect(paceOf(company, Q4, new Set([1]), D).previous.won).toEqual({ count: 0, amount: 0 });
	});
	test("the curve ends where the sum stands, never falls, and counts a free day for the working day before", () => {
		const company = makeCompany([won("2026-10-03", 10), won("2026-10-05", 20)]);
		expect(wonByWorkingDay(company, Q4, null, day("2026-10-06"), D).amounts).toEqual([0, 0, 1000, 3000, 3000]);
		fc.assert(
			fc.property(histories, (deals) => {
				const made = makeCompany(deals, { rates });
				const { amounts } = wonByWorkingDay(made, Q4, null, D, D);
				expect(amounts.at(-1)).toBe(sumOf(winsIn(made, Q4, null, D, D)).amount);
				expect(amounts).toHaveLength(40);
				expect(amounts.every((amount, k) => k === 0 || amount >= (amounts[k - 1] ?? 0))).toBe(true);
			}),
		);
	});
});
