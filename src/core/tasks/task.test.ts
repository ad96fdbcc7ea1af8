import { describe, expect, test } from "vitest";
import { day, makeRules } from "../../../tests/kit/company";
import { NO_DAY } from "../time/day";
import { defaultDue, isOpenOn } from "./task";

const { calendar } = makeRules({ holidays: ["2026-12-25"] });
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

describe("a task", () => {
	test("is due in three working days, but not after the period’s last working day", () => {
		expect(defaultDue(calendar, day("2026-11-24"), Q4)).toBe(day("2026-11-27"));
		expect(defaultDue(calendar, day("2026-12-23"), Q4)).toBe(day("2026-12-29"));
		expect(defaultDue(calendar, day("2026-12-30"), Q4)).toBe(day("2026-12-31"));
		expect(defaultDue(calendar, day("2026-12-31"), { start: Q4.start, end: day("2026-12-20") })).toBe(day("2027-01-05"));
	});
	test("is open from the day it was given until it is done", () => {
		const task = { createdDay: day("2026-11-10"), due: day("2026-11-13"), state: "done" as const, doneDay: day("2026-11-12") };
		expect(["2026-11-09", "2026-11-10", "2026-11-11", "2026-11-12"].map((iso) => isOpenOn(task, day(iso)))).toEqual([false, true, true, false]);
		expect(isOpenOn({ ...task, state: "dropped", doneDay: NO_DAY }, day("2026-11-11"))).toBe(false);
	});
});
