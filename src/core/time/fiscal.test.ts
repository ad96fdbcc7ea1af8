import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { dayFrom, formatDay } from "./day";
import { type Fiscal, type FiscalWeeks, fiscalKey, fiscalOf, yearEnd, yearOf, yearWords } from "./fiscal";
import { formatRange, monthOf, parsePeriod, quarterAt, quarterIndex, quarterOf } from "./period";

const JANUARY: FiscalWeeks = { pattern: "4-4-5", lastDay: 6, end: "last", month: 1 };
const weekly = (weeks: Partial<FiscalWeeks> = {}) => fiscalOf({ startMonth: 1, weeks: { ...JANUARY, ...weeks } });
const range = (period: { start: number; end: number }) => formatRange(period);

/** First days of a fiscal calendar's quarters lie one after the other, and every day is in the one it is found in. */
function demandTiling(fiscal: Fiscal, from: string, to: string) {
	let before: number | null = null;
	for (let on = day(from); on <= day(to); on++) {
		const quarter = quarterOf(on, fiscal);
		const month = monthOf(on, fiscal);
		const index = quarterIndex(on, fiscal);
		expect(on >= quarter.start && on <= quarter.end, formatDay(on)).toBe(true);
		expect(month.start >= quarter.start && month.end <= quarter.end, `${formatDay(on)} ${range(month)} ${range(quarter)}`).toBe(true);
		expect(quarterAt(index, fiscal)).toEqual(quarter);
		if (before !== null && index !== before) {
			expect(index).toBe(before + 1);
			expect(quarter.start).toBe(on);
		}
		const year = yearOf(on, fiscal);
		expect(year.start <= quarter.start && year.end >= quarter.end).toBe(true);
		before = index;
	}
}

describe("a fiscal calendar by weeks", () => {
	test("of 4-4-5, ending on the last Saturday of January, has the years of the worked example", () => {
		const fiscal = weekly();
		const year = (end: string) => yearOf(day(end), fiscal);
		const weeks = (end: string) => (year(end).end - year(end).start + 1) / 7;
		expect(range(year("2027-01-30"))).toBe("2026-02-01..2027-01-30");
		expect(["2027-01-30", "2028-01-29", "2029-01-27", "2026-01-31"].map(weeks)).toEqual([52, 52, 52, 53]);
		for (const end of ["2027-01-30", "2028-01-29", "2029-01-27", "2026-01-31"]) expect(formatDay(year(end).end)).toBe(end);
		expect(range(quarterOf(day("2026-02-01"), fiscal))).toBe("2026-02-01..2026-05-02");
		const months = ["2026-02-01", "2026-03-01", "2026-03-29"].map((on) => monthOf(day(on), fiscal));
		expect(months.map(range)).toEqual(["2026-02-01..2026-02-28", "2026-03-01..2026-03-28", "2026-03-29..2026-05-02"]);
		const last = monthOf(day("2026-01-31"), fiscal);
		expect((last.end - last.start + 1) / 7).toBe(6);
		expect(range(parsePeriod("2027-Q1", fiscal) ?? last)).toBe("2026-02-01..2026-05-02");
		expect(yearWords(day("2026-02-01"), fiscal)).toBe("FY 2027");
	});
	for (const pattern of ["4-4-5", "4-5-4", "5-4-4"] as const)
		for (const end of ["last", "nearest"] as const)
			for (const month of [1, 6, 12])
				test(`has quarters one after the other, of 13 weeks or 14: ${pattern}, ${end}, ${month}`, () => {
					const fiscal = weekly({ pattern, end, month, lastDay: (month * 2) % 7 });
					demandTiling(fiscal, "2019-12-01", "2033-03-01");
					for (let index = quarterIndex(day("2015-06-01"), fiscal); index < quarterIndex(day("2040-06-01"), fiscal); index++) {
						const { start, end: until } = quarterAt(index, fiscal);
						expect([13, 14]).toContain((until - start + 1) / 7);
						const weeks = [start, start + 35, until].map((on) => monthOf(on, fiscal)).map((one) => (one.end - one.start + 1) / 7);
						expect([weeks.slice(0, 2), weeks[2]]).toEqual([
							pattern.split("-").slice(0, 2).map(Number),
							Number(pattern.at(-1)) + (until - start + 1 === 98 ? 1 : 0),
						]);
					}
				});
	test("ends a year within three days of the month’s end where the nearest is meant, within six where the last", () => {
		for (let year = 1990; year < 2060; year++) {
			const monthEnd = dayFrom(year, 13, 1) - 1;
			expect(Math.abs(yearEnd({ ...JANUARY, month: 12, end: "nearest" }, year) - monthEnd)).toBeLessThanOrEqual(3);
			const last = yearEnd({ ...JANUARY, month: 12 }, year);
			expect(last <= monthEnd && last > monthEnd - 7).toBe(true);
		}
	});
});

describe("a change of the fiscal calendar", () => {
	const january = { startMonth: 1, weeks: null };
	const february = { startMonth: 2, weeks: null };
	test("from February to January makes the year between short, and leaves the years before as they were", () => {
		const fiscal = fiscalOf(january, [{ ...february, until: day("2025-12-31") }]);
		demandTiling(fiscal, "2023-01-01", "2028-01-01");
		for (let on = day("2020-01-01"); on <= day("2025-10-31"); on += 13) expect(quarterOf(on, fiscal)).toEqual(quarterOf(on, 2));
		for (let on = day("2026-01-01"); on <= day("2030-10-31"); on += 13) expect(quarterOf(on, fiscal)).toEqual(quarterOf(on, 1));
		expect(range(quarterOf(day("2025-12-24"), fiscal))).toBe("2025-11-01..2025-12-31");
		expect(range(yearOf(day("2025-12-24"), fiscal))).toBe("2025-02-01..2025-12-31");
		expect(range(yearOf(day("2026-01-01"), fiscal))).toBe("2026-01-01..2026-12-31");
	});
	test("to weeks joins the few days between to the last quarter, and to the last month", () => {
		const weeks = { ...JANUARY, month: 12, end: "nearest" as const };
		const start = yearEnd(weeks, 2026) + 1;
		const fiscal = fiscalOf({ startMonth: 1, weeks }, [{ ...january, until: start - 1 }]);
		expect(formatDay(start)).toBe("2027-01-03");
		expect(range(quarterOf(day("2026-12-31"), fiscal))).toBe("2026-10-01..2027-01-02");
		expect(range(monthOf(day("2027-01-01"), fiscal))).toBe("2026-12-01..2027-01-02");
		expect(quarterOf(start, fiscal).start).toBe(start);
		demandTiling(fiscal, "2025-01-01", "2029-01-01");
	});
	test("twice keeps each calendar for its years", () => {
		const fiscal = fiscalOf({ startMonth: 7, weeks: null }, [
			{ ...february, until: day("2024-12-31") },
			{ ...january, until: day("2026-06-30") },
		]);
		demandTiling(fiscal, "2023-06-01", "2028-01-01");
		expect(["2024-03-01", "2025-03-01", "2026-08-01"].map((on) => range(quarterOf(day(on), fiscal)))).toEqual([
			"2024-02-01..2024-04-30",
			"2025-01-01..2025-03-31",
			"2026-07-01..2026-09-30",
		]);
		expect(range(yearOf(day("2026-02-01"), fiscal))).toBe("2026-01-01..2026-06-30");
	});
	test("is told apart in what is kept; without one, a first month says it all", () => {
		expect(fiscalOf(january)).toBe(1);
		const changed = [fiscalOf(january, [{ ...february, until: 1 }]), fiscalOf(january, [{ ...february, until: 2 }]), weekly(), 1];
		expect(new Set(changed.map(fiscalKey)).size).toBe(4);
	});
});

test("years by months begin with their first month", () => {
	for (let first = 1; first <= 12; first++)
		for (let on = day("2024-01-01"); on < day("2027-01-01"); on += 5) {
			const { start, end } = yearOf(on, first);
			expect(on >= start && on <= end).toBe(true);
			expect(yearOf(end + 1, first).start).toBe(end + 1);
			expect(quarterOf(start, first).start).toBe(start);
		}
	expect(yearWords(day("2026-11-24"), 1)).toBe("2026");
	expect(yearWords(day("2026-11-24"), 4)).toBe("FY 2027");
});
