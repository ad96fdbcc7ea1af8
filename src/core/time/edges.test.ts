import { describe, expect, test } from "vitest";
import { makeCalendar } from "./calendar";
import { DAYS_TAKEN, dayFrom, formatDay, inBounds, isoOrNull, NO_DAY, parseDay, parts } from "./day";
import { ALWAYS, bounded, formatRange, isMonthKey, monthOf, parsePeriod, quarterAt, quarterIndex } from "./period";
import { typedDay } from "./typedDay";
import { longDay, periodWords, spokenDay } from "./words";
import { makeZone } from "./zone";

const day = (iso: string) => parseDay(iso) as number;
const TODAY = day("2026-11-24");
const typed = (text: string, from?: string) => isoOrNull(typedDay(text, TODAY, from === undefined ? undefined : day(from)) ?? NO_DAY);

describe("a day", () => {
	test("is nothing but its text, and exists", () => {
		for (const text of ["x2026-11-24", "2026-11-24x", "2026-11-31", "2026-13-01", "2026-00-10", "26-11-24", "2026-11-2", ""]) expect(parseDay(text)).toBeNull();
		expect(isoOrNull(NO_DAY)).toBeNull();
		expect(isoOrNull(0)).toBe("1970-01-01");
		expect(NO_DAY).toBeLessThan(day("0001-01-01"));
	});
	test("may be dated to 1900 and to 2200, and not a year beyond", () => {
		expect(["1899-12-31", "1900-01-01", "2200-12-31", "2201-01-01"].map(inBounds)).toEqual([false, true, true, false]);
		expect(DAYS_TAKEN).toContain("1900 to 2200");
	});
	test("has its year at the ends of centuries and of 400 years", () => {
		for (const iso of [
			"1899-12-31",
			"1900-02-28",
			"1900-03-01",
			"1999-12-31",
			"2000-02-29",
			"2000-12-31",
			"2100-12-31",
			"2399-12-31",
			"2400-02-29",
			"2400-12-31",
		]) {
			const [year, month, date] = iso.split("-").map(Number) as [number, number, number];
			expect(parts(dayFrom(year, month, date))).toEqual({ year, month, date });
		}
	});
});

describe("a day as it is typed", () => {
	test("by its month in letters, short or whole, before or after the date", () => {
		const months = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
		months.forEach((month, i) => {
			expect(typed(`3 ${month} 2027`)).toBe(`2027-${String(i + 1).padStart(2, "0")}-03`);
		});
		for (const text of [
			"3 march 2027",
			"3rd March 2027",
			"3. mar 2027",
			"3.mar 2027",
			"3mar 2027",
			"mar 3 2027",
			"march 3rd, 2027",
			"mar. 3, 27",
			"3 mar., 27",
		]) {
			expect(typed(text)).toBe("2027-03-03");
		}
		expect(typed("tue, 24 nov 2026")).toBe("2026-11-24");
		for (const text of ["3 xyz 2027", "3 ma 2027", "x3 mar 2027", "3 mar 2027 x", "3 mar 202", "x mar 3", "mar 3 27 x", "mar 33 2027", "0 mar 2027"]) {
			expect(typed(text)).toBeNull();
		}
	});
	test("by the day of the week: the next one, a week on if it is today", () => {
		expect(["sun", "mon", "tue", "wed", "thu", "fri", "sat", "Friday", " FRI "].map((text) => typed(text))).toEqual([
			"2026-11-29",
			"2026-11-30",
			"2026-12-01",
			"2026-11-25",
			"2026-11-26",
			"2026-11-27",
			"2026-11-28",
			"2026-11-27",
			"2026-11-27",
		]);
		expect(typed("abc")).toBeNull();
	});
	test("by figures, day first, with or without the last point", () => {
		for (const text of ["27.11.", "27.11", "27/11", "27.11.2026", "27/11/26"]) expect(typed(text)).toBe("2026-11-27");
		for (const text of ["x27.11", "27.11x", "27.13.", "32.11.2026", "27.0.", "0.11."]) expect(typed(text)).toBeNull();
	});
	test("by so many days or weeks", () => {
		expect(
			["+3", "+ 3", "+3 d", "+3 days", "+1day", "-1", "+12", "+2w", "+1 week", "+2 weeks", "today", "tomorrow", "yesterday"].map((text) => typed(text)),
		).toEqual([
			"2026-11-27",
			"2026-11-27",
			"2026-11-27",
			"2026-11-27",
			"2026-11-25",
			"2026-11-23",
			"2026-12-06",
			"2026-12-08",
			"2026-12-01",
			"2026-12-08",
			"2026-11-24",
			"2026-11-25",
			"2026-11-23",
		]);
		for (const text of ["+3x", "+", "3", "+12345"]) expect(typed(text)).toBeNull();
	});
	test("without a year the nearest one; with a first day the first from there on", () => {
		expect(typed("24 nov")).toBe("2026-11-24");
		expect(typed("1 jan")).toBe("2027-01-01");
		expect(typed("30 jun")).toBe("2026-06-30");
		expect(typed("20 may")).toBe("2027-05-20");
		expect(typed("20 nov", "2026-11-24")).toBe("2027-11-20");
		expect(typed("24 nov", "2026-11-24")).toBe("2026-11-24");
		expect(typed("29 feb")).toBeNull();
		expect(isoOrNull(typedDay("29 feb", day("2027-11-24")) ?? NO_DAY)).toBe("2028-02-29");
	});
});

describe("a period", () => {
	test("is read whole or not at all", () => {
		expect(parsePeriod("2026-11", 1)).toEqual({ start: day("2026-11-01"), end: day("2026-11-30") });
		expect(parsePeriod("2026-Q4", 1)).toEqual({ start: day("2026-10-01"), end: day("2026-12-31") });
		expect(parsePeriod("2026-12-01..2026-12-01", 1)).toEqual({ start: day("2026-12-01"), end: day("2026-12-01") });
		expect(parsePeriod("..2026-12-01", 1)).toEqual({ start: ALWAYS.start, end: day("2026-12-01") });
		expect(parsePeriod("2026-12-01..", 1)).toEqual({ start: day("2026-12-01"), end: ALWAYS.end });
		for (const text of ["x2026-Q4", "2026-Q4x", "2026-Q5", "x2026-11", "2026-11x", "2026-13", "x2026-12-01..", "..2026-12-01x", "2026-12-02..2026-12-01"]) {
			expect(parsePeriod(text, 1)).toBeNull();
		}
		for (const text of ["2026-02-30..2026-12-01", "2026-12-01..2027-02-30"]) expect(parsePeriod(text, 1)).toBeNull();
	});
	test("of a month is from its first to its last day, also in December", () => {
		expect(monthOf(day("2026-12-31"))).toEqual({ start: day("2026-12-01"), end: day("2026-12-31") });
		expect(["2026-11", "2026-1", "x2026-11", "2026-11x", "2026-Q1"].map(isMonthKey)).toEqual([true, false, false, false, false]);
	});
	test("of a quarter follows the one before without a gap, whatever month the year begins in", () => {
		for (const start of [1, 2, 7, 12]) {
			const index = quarterIndex(TODAY, start);
			for (let i = index - 6; i < index + 6; i++) expect(quarterAt(i + 1, start).start).toBe(quarterAt(i, start).end + 1);
		}
	});
	test("has bounds unless it is open at an end, and is written as it is read", () => {
		const open = { start: ALWAYS.start, end: TODAY };
		expect(bounded(open)).toBeNull();
		expect(bounded({ start: TODAY, end: ALWAYS.end })).toBeNull();
		expect(bounded(null)).toBeNull();
		expect(bounded({ start: TODAY, end: TODAY })).toEqual({ start: TODAY, end: TODAY });
		expect([formatRange(open), formatRange({ start: TODAY, end: ALWAYS.end }), formatRange(ALWAYS)]).toEqual(["..2026-11-24", "2026-11-24..", ".."]);
	});
	test("is worded by its months where it is whole ones, by its days where it isn’t", () => {
		const words = (text: string) => periodWords(parsePeriod(text, 1) ?? ALWAYS);
		expect(words("2026-Q4")).toBe("Oct–Dec 2026");
		expect(words("2026-11")).toBe("Nov 2026");
		expect(words("2026-11-01..2027-01-31")).toBe("Nov 2026–Jan 2027");
		expect(words("2026-11-01..2027-11-30")).toBe("Nov 2026–Nov 2027");
		expect(words("2026-11-02..2026-12-31")).toBe("2 Nov 2026 – 31 Dec 2026");
		expect(words("2026-11-01..2026-12-30")).toBe("1 Nov 2026 – 30 Dec 2026");
		expect(words("..2026-12-30")).toBe("the time to 30 Dec 2026");
		expect(words("2026-11-01..")).toBe("the time from 1 Nov 2026");
		expect(periodWords(ALWAYS)).toBe("any period");
		expect([spokenDay(TODAY), spokenDay(TODAY, day("2026-01-02")), spokenDay(TODAY, day("2027-01-02"))]).toEqual([
			"Tue 24 Nov",
			"Tue 24 Nov",
			"Tue 24 Nov 2026",
		]);
		expect(longDay(TODAY)).toBe("24 Nov 2026");
	});
});

describe("a calendar", () => {
	test("needs a working day in a week, and takes holidays in any order, twice, and on weekends", () => {
		expect(() => makeCalendar([0, 1, 2, 3, 4, 5, 6], [])).toThrow("at least one working day");
		const plain = makeCalendar([0, 6], [day("2026-12-25"), day("2026-11-26"), day("2026-11-26"), day("2026-11-28")]);
		expect(plain.between(TODAY, day("2026-11-27"))).toBe(2);
		expect(plain.between(TODAY, day("2026-11-25"))).toBe(1);
		expect(plain.between(day("2026-11-27"), day("2026-11-30"))).toBe(1);
		expect(plain.between(TODAY, day("2026-12-25"))).toBe(plain.between(TODAY, day("2026-12-24")));
	});
});

describe("a zone", () => {
	test("tells the minute of the day there, also before 1970 and on a day whose clock changes", () => {
		const berlin = makeZone("Europe/Berlin");
		const minute = (at: string) => berlin.minuteOf(Date.parse(at));
		expect(minute("2026-11-24T00:30:00Z")).toBe(90);
		expect(minute("2026-11-23T23:00:00Z")).toBe(0);
		expect(minute("2026-03-29T00:59:59Z")).toBe(119);
		expect(minute("2026-03-29T01:00:00Z")).toBe(180);
		expect(minute("1965-06-01T22:30:00Z")).toBe(23 * 60 + 30);
		expect(formatDay(berlin.dayOf(berlin.instantAt(day("2026-03-29"), 2.5 * 3_600_000)))).toBe("2026-03-29");
	});
});
