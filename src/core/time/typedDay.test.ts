import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { formatDay, parseDay } from "./day";
import { typedDay } from "./typedDay";
import { longDay, shortDay, spokenDay } from "./words";

// A Tuesday.
const today = parseDay("2026-11-24") as number;
const read = (typed: string) => {
	const day = typedDay(typed, today);
	return day === null ? null : formatDay(day);
};

describe("a day as it is typed", () => {
	test("is read in every usual form", () => {
		for (const typed of [
			"27 nov",
			"27 Nov 2026",
			"27. november",
			"nov 27",
			"November 27, 2026",
			"27.11.",
			"27.11.2026",
			"27/11",
			"27/11/26",
			"2026-11-27",
			"fri",
			"Friday",
			"+3",
			"+3 days",
			"fri 27 nov",
		])
			expect([typed, read(typed)]).toEqual([typed, "2026-11-27"]);
		expect([read("today"), read("tomorrow"), read("yesterday"), read("-1"), read("+2w")]).toEqual([
			"2026-11-24",
			"2026-11-25",
			"2026-11-23",
			"2026-11-23",
			"2026-12-08",
		]);
	});

	test("of the week is the next one, never today", () => {
		expect([read("tue"), read("wed"), read("mon")]).toEqual(["2026-12-01", "2026-11-25", "2026-11-30"]);
	});

	test("without a year is the nearest one", () => {
		expect([read("10 jan"), read("1 jul"), read("30 may"), read("29 feb")]).toEqual(["2027-01-10", "2026-07-01", "2026-05-30", null]);
		expect(["1 jul", "24 nov", "23 nov"].map((typed) => formatDay(typedDay(typed, today, today) ?? 0))).toEqual(["2027-07-01", "2026-11-24", "2027-11-23"]);
	});

	test("that isn’t one is none", () => {
		for (const typed of ["", "soon", "31 feb", "13/13", "0 nov", "27", "99999-01-01", "1 jan 1850", "27 novx 26 x", "+", "2026-02-30"])
			expect([typed, read(typed)]).toEqual([typed, null]);
	});

	test("is read back from how the program writes it", () => {
		fc.assert(
			fc.property(fc.integer({ min: -20_000, max: 60_000 }), (day) => {
				expect(typedDay(longDay(day), today)).toBe(day);
				expect(typedDay(formatDay(day), today)).toBe(day);
				if (Math.abs(day - today) < 180) expect([typedDay(shortDay(day), today), typedDay(spokenDay(day), today)]).toEqual([day, day]);
			}),
		);
	});
});
