import { describe, expect, test } from "vitest";
import { RULES } from "@/core/flags/list";
import { settingsOf } from "@/core/flags/rule";
import { quarterOf } from "@/core/time/period";
import { longDay, periodWords, shortDay, spokenDay, workingDays } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { readSettings } from "@/formats/bundle/settings";
import { day } from "../kit/company";

const read = (settings: unknown) => readSettings(new TextEncoder().encode(JSON.stringify(settings)));
const faults = (settings: unknown) => read(settings).problems.map((p) => `${p.column}: ${p.reason}`);

describe("settings.json", () => {
	test("may be left out, or empty, or hold all there is", () => {
		expect(readSettings(undefined)).toEqual({ settings: {}, problems: [] });
		expect(read({})).toEqual({ settings: {}, problems: [] });
		const whole = {
			timeZone: "America/New_York",
			baseCurrency: "USD",
			fiscalYearStartMonth: 4,
			weekend: [5, 6],
			today: "2026-11-24",
			activityKinds: { tasting: { stagePosition: 3 }, letter: {} },
			flags: { stalled: { on: false }, slipped: { pushes: 3, crossings: 2 } },
		};
		expect(read(whole)).toEqual({ settings: whole, problems: [] });
	});
	test("knows weekdays by number and by name, and Sunday as 0 and as 7", () => {
		expect(read({ weekend: ["Saturday", "sun"] }).settings.weekend).toEqual([6, 0]);
		expect(read({ weekend: [6, 7] }).settings.weekend).toEqual([6, 0]);
		expect(faults({ weekend: ["someday"] }).join()).toContain("weekend");
		expect(faults({ weekend: [0, 1, 2, 3, 4, 5, 6] })).toEqual(["weekend: a week needs a working day"]);
	});
	test("takes a fiscal calendar by weeks, and those that held before in their order", () => {
		const weeks = { pattern: "4-5-4", lastDay: "friday", end: "nearest", month: 12 };
		expect(read({ fiscalWeeks: weeks }).settings.fiscalWeeks).toEqual({ ...weeks, lastDay: 5 });
		expect(read({ fiscalWeeks: null }).settings.fiscalWeeks).toBeNull();
		for (const wrong of [{ pattern: "5-5-3" }, { lastDay: "someday" }, { end: "first" }, { month: 0 }])
			expect(faults({ fiscalWeeks: { ...weeks, ...wrong } })[0]).toMatch(new RegExp(`^fiscalWeeks.${Object.keys(wrong)[0]}`));
		const before = ["2025-12-31", "2024-12-31"].map((until) => ({ until, fiscalYearStartMonth: 2 }));
		expect(faults({ fiscalBefore: before })).toEqual(["fiscalBefore: each calendar must end after the one before"]);
		expect(read({ fiscalBefore: before.reverse() }).problems).toEqual([]);
	});
	test("says what is wrong and where", () => {
		expect(faults({ timeZone: "Moon" })[0]).toMatch(/^timeZone: this isn’t an IANA time zone/);
		expect(faults({ baseCurrency: "EURO" })[0]).toMatch(/^baseCurrency: .*ISO 4217/);
		expect(faults({ fiscalYearStartMonth: 13 })[0]).toMatch(/^fiscalYearStartMonth/);
		expect(faults({ today: "2026-02-30" })).toEqual(["today: this isn’t a day (YYYY-MM-DD)"]);
		expect(faults({ flags: { stalled: { days: "long" } } })[0]).toMatch(/^flags.stalled.days/);
		expect(faults({ flags: { slipped: { pushes: 0 } } })[0]).toMatch(/^flags.slipped.pushes/);
		expect(faults([])).toHaveLength(1);
	});
	test("keeps what a later program may know, and this one doesn’t", () => {
		expect(read({ lantern: "lit", flags: { unheard: { days: 3 } } }).settings).toEqual({ lantern: "lit", flags: { unheard: { days: 3 } } });
	});
});

describe("every rule", () => {
	test("has a code, a name, what it is about, and settings that describe themselves", () => {
		for (const rule of RULES) {
			expect(rule.code).toMatch(/^[a-z]+(-[a-z]+)*$/);
			expect([rule.name.length > 3, rule.about.length > 20, rule.about.endsWith(".")]).toEqual([true, true, true]);
			for (const spec of Object.values(rule.settings)) {
				expect(spec.label.length > 5 && spec.unit.length > 3).toBe(true);
				if (spec.standard !== null) expect(spec.min <= spec.standard && spec.standard <= spec.max).toBe(true);
			}
		}
		expect(new Set(RULES.map((rule) => rule.code)).size).toBe(RULES.length);
	});
	test("takes what is set, and its standard for the rest", () => {
		const slipped = RULES.find((rule) => rule.code === "slipped");
		if (!slipped) throw new Error("no such rule");
		expect(settingsOf(slipped, { slipped: { pushes: 5 } }, null)).toEqual({ pushes: 5, crossings: 1 });
		expect(settingsOf(slipped, { slipped: { pushes: "many" } }, null)).toEqual({ pushes: 2, crossings: 1 });
		expect(settingsOf(slipped, { slipped: { on: false, pushes: 5 } }, null)).toBeNull();
		expect(settingsOf(slipped, { stalled: { on: false } }, null)).toEqual({ pushes: 2, crossings: 1 });
	});
	test("can be set as its description allows, from the least to the most", () => {
		for (const rule of RULES) {
			for (const [name, spec] of Object.entries(rule.settings)) {
				const problems = (value: number) => faults({ flags: { [rule.code]: { [name]: value } } }).length;
				expect([problems(spec.min), problems(spec.max), problems(spec.min - 1)], `${rule.code} ${name}`).toEqual([0, 0, 1]);
			}
		}
	});
});

describe("days and counts in words", () => {
	test("read as people say them", () => {
		expect([shortDay(day("2026-11-08")), longDay(day("2026-11-08")), spokenDay(day("2026-11-08"))]).toEqual(["8 Nov", "8 Nov 2026", "Sun 8 Nov"]);
		expect([workingDays(0), workingDays(1), workingDays(4)]).toEqual(["0 working days", "1 working day", "4 working days"]);
		expect([plural(1, "push", "pushes"), plural(3, "push", "pushes"), plural(2, "deal")]).toEqual(["1 push", "3 pushes", "2 deals"]);
	});
	test("a quarter, a month and any range have their own words", () => {
		expect(periodWords(quarterOf(day("2026-05-05"), 1))).toBe("Apr–Jun 2026");
		expect(periodWords({ start: day("2026-02-01"), end: day("2026-02-28") })).toBe("Feb 2026");
		expect(periodWords({ start: day("2026-02-01"), end: day("2026-02-27") })).toBe("1 Feb 2026 – 27 Feb 2026");
	});
});
