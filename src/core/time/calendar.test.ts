import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { makeCalendar } from "./calendar";

const christmas = makeCalendar([0, 6], [day("2026-12-25")]);
const anyDay = fc.integer({ min: -20_000, max: 40_000 });
const anyCalendar = fc
	.record({ weekend: fc.uniqueArray(fc.integer({ min: 0, max: 6 }), { maxLength: 6 }), holidays: fc.array(anyDay, { maxLength: 40 }) })
	.map(({ weekend, holidays }) => makeCalendar(weekend, holidays));

describe("working days", () => {
	test("a holiday and a weekend between Christmas Eve and the Monday after leave one", () => {
		expect(christmas.between(day("2026-12-24"), day("2026-12-28"))).toBe(1);
		expect(christmas.between(day("2026-12-28"), day("2026-12-24"))).toBe(-1);
	});
	test("no working day lies between a day and itself", () => {
		expect(christmas.between(day("2026-12-24"), day("2026-12-24"))).toBe(0);
	});
	test("they are antisymmetric and additive", () => {
		fc.assert(
			fc.property(anyCalendar, anyDay, anyDay, anyDay, (calendar, a, b, c) => {
				expect(calendar.between(a, b)).toBe(0 - calendar.between(b, a));
				expect(calendar.between(a, b) + calendar.between(b, c)).toBe(calendar.between(a, c));
			}),
		);
	});
	test("they are what counting day by day gives", () => {
		fc.assert(
			fc.property(anyCalendar, anyDay, fc.integer({ min: 0, max: 120 }), (calendar, a, length) => {
				let count = 0;
				for (let d = a + 1; d <= a + length; d++) if (calendar.isWorking(d)) count++;
				expect(calendar.between(a, a + length)).toBe(count);
			}),
		);
	});
	test("three working days from the Wednesday before Christmas is the Tuesday after", () => {
		expect(christmas.add(day("2026-12-23"), 3)).toBe(day("2026-12-29"));
		expect(christmas.lastOnOrBefore(day("2026-12-27"))).toBe(day("2026-12-24"));
	});
	test("a week without a working day is refused", () => {
		expect(() => makeCalendar([0, 1, 2, 3, 4, 5, 6], [])).toThrow(RangeError);
	});
});
