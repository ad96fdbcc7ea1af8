import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { formatDay, parseDay, weekday } from "./day";
import { formatRange, parsePeriod, quarterIndex, quarterOf } from "./period";
import { periodWords, spokenDay } from "./words";
import { makeZone } from "./zone";

describe("days", () => {
	test("a day that doesn’t exist isn’t one", () => {
		expect(parseDay("2026-02-30")).toBeNull();
		expect(parseDay("2026-13-01")).toBeNull();
		expect(parseDay("24.11.2026")).toBeNull();
		expect(parseDay("2028-02-29")).not.toBeNull();
	});
	test("writing and reading a day gives it back", () => {
		fc.assert(
			fc.property(fc.integer({ min: -700_000, max: 2_900_000 }), (d) => {
				expect(parseDay(formatDay(d))).toBe(d);
			}),
		);
	});
	test("24 November 2026 is a Tuesday", () => {
		expect(weekday(day("2026-11-24"))).toBe(2);
		expect(spokenDay(day("2026-11-24"))).toBe("Tue 24 Nov");
		expect(spokenDay(day("2025-11-24"), day("2026-11-24"))).toBe("Mon 24 Nov 2025");
	});
});

describe("the day of an instant", () => {
	const berlin = makeZone("Europe/Berlin");
	test("changes at the organisation’s midnight, not at that of Greenwich", () => {
		expect(formatDay(berlin.dayOf(Date.parse("2026-11-23T22:59:59Z")))).toBe("2026-11-23");
		expect(formatDay(berlin.dayOf(Date.parse("2026-11-23T23:00:00Z")))).toBe("2026-11-24");
	});
	test("follows daylight saving within the very day it changes", () => {
		expect(formatDay(berlin.dayOf(Date.parse("2026-03-28T23:00:00Z")))).toBe("2026-03-29");
		expect(formatDay(berlin.dayOf(Date.parse("2026-03-29T21:59:59Z")))).toBe("2026-03-29");
		expect(formatDay(berlin.dayOf(Date.parse("2026-03-29T22:00:00Z")))).toBe("2026-03-30");
	});
	test("is the same as the runtime’s own for any zone and instant", () => {
		const zones = ["Pacific/Auckland", "America/New_York", "Asia/Kolkata", "Australia/Lord_Howe", "UTC"].map(makeZone);
		fc.assert(
			fc.property(fc.constantFrom(...zones), fc.integer({ min: 1_500_000_000, max: 1_900_000_000 }), (zone, seconds) => {
				const own = new Intl.DateTimeFormat("sv-SE", { timeZone: zone.name }).format(seconds * 1000);
				expect(formatDay(zone.dayOf(seconds * 1000))).toBe(own);
			}),
		);
	});
	test("a wall clock leads to an instant of that day", () => {
		for (const iso of ["2026-03-29", "2026-10-25", "2026-11-24"]) {
			expect(berlin.dayOf(berlin.instantAt(day(iso), 0))).toBe(day(iso));
			expect(berlin.dayOf(berlin.instantAt(day(iso), 0) - 1)).toBe(day(iso) - 1);
		}
	});
	test("a day begins within itself, just after the one before, in any zone, also where midnight is skipped or comes twice", () => {
		const zones = ["Europe/Berlin", "America/Sao_Paulo", "America/Havana", "Asia/Beirut", "Africa/Cairo", "Australia/Lord_Howe", "Pacific/Apia"].map(makeZone);
		for (const zone of zones) {
			for (let one = day("2010-01-01"); one < day("2027-01-01"); one++) {
				const start = zone.instantAt(one, 0);
				if (zone.name === "Pacific/Apia" && one === day("2011-12-30")) continue; // a day that Samoa left out
				expect([zone.name, one, zone.dayOf(start), zone.dayOf(start - 1) < one]).toEqual([zone.name, one, one, true]);
			}
		}
	});
	test("a time that a clock shows twice is the first of them", () => {
		expect(new Date(berlin.instantAt(day("2026-10-25"), 2.5 * 3_600_000)).toISOString()).toBe("2026-10-25T00:30:00.000Z");
		expect(new Date(makeZone("America/Sao_Paulo").instantAt(day("2018-11-04"), 0)).toISOString()).toBe("2018-11-04T03:00:00.000Z");
	});
	test("an unknown zone is refused", () => {
		expect(() => makeZone("Europe/Nowhere")).toThrow(RangeError);
	});
});

describe("periods", () => {
	test("2026-Q4 with a January start is October to December", () => {
		const period = parsePeriod("2026-Q4", 1);
		expect(period).toEqual({ start: day("2026-10-01"), end: day("2026-12-31") });
		expect(period && periodWords(period)).toBe("Oct–Dec 2026");
		expect(period && formatRange(period)).toBe("2026-10-01..2026-12-31");
	});
	test("a fiscal year is named by the year it ends in", () => {
		const period = parsePeriod("2027-Q1", 4);
		expect(period).toEqual({ start: day("2026-04-01"), end: day("2026-06-30") });
	});
	test("a quarter over the turn of the year stays one", () => {
		const period = quarterOf(day("2027-01-15"), 2);
		expect(period).toEqual({ start: day("2026-11-01"), end: day("2027-01-31") });
		expect(periodWords(period)).toBe("Nov 2026–Jan 2027");
	});
	test("every day lies in the quarter it is said to lie in, whatever the fiscal year’s start", () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 40_000 }), fc.integer({ min: 1, max: 12 }), (d, start) => {
				const period = quarterOf(d, start);
				expect(period.start <= d && d <= period.end).toBe(true);
				expect(quarterIndex(period.end + 1, start)).toBe(quarterIndex(d, start) + 1);
				// Read back by its days it is the same, whatever the fiscal year is then.
				for (const later of [1, 4, 11]) expect(parsePeriod(formatRange(period), later)).toEqual(period);
			}),
		);
	});
	test("two days make a period, and one of them may be left out", () => {
		expect(parsePeriod("2026-10-05..2026-10-09", 1)).toEqual({ start: day("2026-10-05"), end: day("2026-10-09") });
		expect(formatRange(parsePeriod("..2026-09-30", 1) ?? { start: 0, end: 0 })).toBe("..2026-09-30");
		expect(parsePeriod("2026-10-09..2026-10-05", 1)).toBeNull();
		expect(parsePeriod("2026-Q5", 1)).toBeNull();
	});
});
