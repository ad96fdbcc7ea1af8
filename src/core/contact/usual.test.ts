import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { makeCalendar } from "../time/calendar";
import { contactsADay, spansBefore, workedIn } from "./usual";

const calendar = makeCalendar([0, 6], [day("2026-11-11")]);
const WEEK = { start: day("2026-11-23"), end: day("2026-11-27") };

describe("the spans before one", () => {
	test("have as many working days, and leave no day out", () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 60 }), (from, length) => {
				const span = { start: day("2026-01-01") + from, end: day("2026-01-01") + from + length };
				const days = calendar.between(span.start - 1, span.end);
				const spans = spansBefore(span, calendar);
				expect(spans).toHaveLength(days ? 8 : 0);
				let end = span.start - 1;
				for (const one of spans) {
					expect(one.end).toBe(end);
					expect(calendar.between(one.start - 1, one.end)).toBe(days);
					end = one.start - 1;
				}
			}),
		);
	});
});

describe("contacts a working day", () => {
	const always = () => true;
	test("are held against the median of the eight spans before", () => {
		const counts = [10, 1, 2, 3, 4, 5, 6, 7, 100];
		const spans = [WEEK, ...spansBefore(WEEK, calendar)];
		const touches = ({ start }: { start: number }) => counts[spans.findIndex((one) => one.start === start)] ?? 0;
		expect(contactsADay(WEEK, calendar, always, touches)).toEqual({ perDay: 2, usual: 4.5 / 5 });
	});
	test("are by the days somebody worked here: spans without any are left out, and under three nothing is usual", () => {
		const spans = spansBefore(WEEK, calendar);
		const from = (n: number) => (on: number) => on >= (spans[n - 1]?.start ?? 0);
		expect(contactsADay(WEEK, calendar, from(3), () => 5).usual).toBe(1);
		expect(contactsADay(WEEK, calendar, from(2), () => 5).usual).toBeNull();
		expect(
			contactsADay(
				WEEK,
				calendar,
				() => false,
				() => 5,
			),
		).toEqual({ perDay: null, usual: null });
		expect(workedIn(WEEK, calendar, (on) => on >= day("2026-11-26"))).toBe(2);
	});
});
