import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { makeCalendar } from "./calendar";
import { formatDay, parts } from "./day";
import { isOfRhythm, type Rhythm } from "./rhythm";

const CALENDAR = makeCalendar([0, 6], [day("2026-12-25"), day("2027-01-01")]);
const daysOf = (rhythm: Rhythm, from: string, to: string) => {
	const found: string[] = [];
	for (let on = day(from); on <= day(to); on++) if (isOfRhythm(rhythm, on, CALENDAR)) found.push(formatDay(on));
	return found;
};

describe("a rhythm", () => {
	test("of days of the week comes on them; what falls on a holiday comes on the next working day", () => {
		expect(daysOf({ kind: "weekdays", days: [1, 4] }, "2026-11-23", "2026-12-03")).toEqual(["2026-11-23", "2026-11-26", "2026-11-30", "2026-12-03"]);
		expect(daysOf({ kind: "weekdays", days: [5] }, "2026-12-21", "2027-01-08")).toEqual(["2026-12-28", "2027-01-04", "2027-01-08"]);
	});
	test("of both days that a holiday joins comes once", () => {
		expect(daysOf({ kind: "weekdays", days: [5, 1] }, "2026-12-24", "2026-12-31")).toEqual(["2026-12-28"]);
	});
	test("of months comes on each month’s first working day", () => {
		for (const on of daysOf({ kind: "month" }, "2026-01-01", "2027-12-31")) {
			expect(CALENDAR.isWorking(day(on))).toBe(true);
			expect(CALENDAR.between(day(on) - parts(day(on)).date, day(on))).toBe(1);
		}
		expect(daysOf({ kind: "month" }, "2026-01-01", "2027-12-31")).toHaveLength(24);
	});
});
