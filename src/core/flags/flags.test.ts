import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal, type TestRules } from "../../../tests/kit/company";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { NO_DAY } from "../time/day";
import { RULES } from "./list";
import { settingsOf } from "./rule";

/** The first deal seen on a day, in a company of these deals. */
const seen = (deal: TestDeal, iso: string, rules: TestRules = {}, others: TestDeal[] = []) => {
	const company = makeCompany([deal, ...others], rules);
	return inspect(company, 0, normsOn(company, day(iso)));
};
const flag = (code: string, deal: TestDeal, iso: string, rules?: TestRules, others?: TestDeal[]) =>
	seen(deal, iso, rules, others)?.flags.find((f) => f.code === code);

describe("overdue", () => {
	const deal: TestDeal = { versions: [{ at: "2026-11-02", close: "2026-11-18" }] };
	test("fires from the day after the close date, and says since when in words", () => {
		expect(flag("overdue", deal, "2026-11-18")).toBeUndefined();
		expect(flag("overdue", deal, "2026-11-24")).toMatchObject({
			severity: 3,
			label: "Overdue 4 d",
			reason: "close date was 18 Nov, 4 working days ago (6 calendar days)",
			evidence: { closeDate: "2026-11-18", days: 4 },
		});
	});
	test("counts working days in the chip as in its sentence; over a weekend there is none to count", () => {
		const late: TestDeal = { versions: [{ at: "2026-11-02", close: "2026-11-20" }] };
		expect(flag("overdue", late, "2026-11-22")).toMatchObject({ label: "Overdue", evidence: { days: 0, calendarDays: 2 } });
		expect(flag("overdue", late, "2026-11-23")).toMatchObject({ label: "Overdue 1 d" });
	});
	test("needs a close date", () => expect(flag("overdue", { versions: [{ at: "2026-11-02" }] }, "2026-11-24")).toBeUndefined());
});

describe("slipped", () => {
	const pushed = (...closes: string[]): TestDeal => ({ versions: closes.map((close, i) => ({ at: `2026-01-0${i + 5}`, close })) });
	test("fires at two pushes within a quarter, and not at one", () => {
		expect(flag("slipped", pushed("2026-02-02", "2026-02-20"), "2026-01-20")).toBeUndefined();
		expect(flag("slipped", pushed("2026-02-02", "2026-02-20", "2026-03-02"), "2026-01-20")).toMatchObject({ severity: 2, label: "Slipped ×2" });
	});
	test("one push over a quarter’s end is enough, two of them are severe", () => {
		expect(flag("slipped", pushed("2026-03-20", "2026-04-02"), "2026-01-20")).toMatchObject({ severity: 2 });
		expect(flag("slipped", pushed("2026-03-20", "2026-04-02", "2026-07-02"), "2026-01-20")).toMatchObject({ severity: 3 });
	});
	test("three pushes are severe; the limits can be set", () => {
		const deal = pushed("2026-02-02", "2026-02-09", "2026-02-16", "2026-02-23");
		expect(flag("slipped", deal, "2026-01-20")).toMatchObject({ severity: 3, evidence: { pushes: 3, pushedDays: 21 } });
		expect(flag("slipped", deal, "2026-01-20", { flags: { slipped: { pushes: 4 } } })).toBeUndefined();
	});
});

describe("stalled", () => {
	const deal: TestDeal = { versions: [{ at: "2026-03-02" }] };
	test("counts working days from the day it was created", () => {
		expect(flag("stalled", deal, "2026-03-20")).toBeUndefined();
		expect(flag("stalled", deal, "2026-03-23")).toMatchObject({ severity: 2, label: "Stalled 15 d", evidence: { since: "2026-03-02" } });
		expect(flag("stalled", deal, "2026-04-13")).toMatchObject({ severity: 3, label: "Stalled 30 d" });
	});
	test("a conversation or a word from them starts the count anew, one from us doesn’t", () => {
		const with_ = (direction: "in" | "out") => ({ ...deal, activities: [["2026-03-16", direction]] as TestDeal["activities"] });
		expect(flag("stalled", with_("in") as TestDeal, "2026-03-23")).toBeUndefined();
		expect(flag("stalled", with_("out") as TestDeal, "2026-03-23")).toBeDefined();
	});
	test("so does a step forward, but not one back", () => {
		const steps = (last: string): TestDeal => ({
			versions: [
				{ at: "2026-03-02", stage: "Survey" },
				{ at: "2026-03-16", stage: last },
			],
		});
		expect(flag("stalled", steps("Trial"), "2026-03-23")).toBeUndefined();
		expect(flag("stalled", steps("Enquiry"), "2026-03-23")).toBeDefined();
	});
});

describe("aging", () => {
	test("a stage is long above twice its configured days, or by the percentile that is set", () => {
		const deal: TestDeal = { versions: [{ at: "2026-03-02" }] };
		expect(flag("aging-stage", deal, "2026-03-30")).toBeUndefined();
		expect(flag("aging-stage", deal, "2026-03-31")).toMatchObject({
			severity: 2,
			label: "21 d in stage, usual 10",
			evidence: { percentile: 90, limit: 20, measured: false },
		});
		const at = (percentile: number) => ({ flags: { "aging-stage": { percentile } } });
		expect(flag("aging-stage", deal, "2026-03-23", at(75))).toBeUndefined();
		expect(flag("aging-stage", deal, "2026-03-24", at(75))).toMatchObject({ evidence: { percentile: 75, limit: 15 } });
		expect(flag("aging-stage", deal, "2026-03-11", at(25))).toMatchObject({ evidence: { limit: 6 } });
	});
	test("a deal is open long above twice the configured path", () => {
		const deal: TestDeal = { versions: [{ at: "2026-03-02" }] };
		expect(flag("aging-deal", deal, "2026-07-20")).toBeUndefined();
		expect(flag("aging-deal", deal, "2026-07-21")).toMatchObject({ severity: 1, label: "Open 101 d" });
	});
});

describe("no next step", () => {
	const deal: TestDeal = { versions: [{ at: "2026-03-02", next: "2026-03-10", amount: 100 }] };
	const bigger: TestDeal[] = [200, 300, 400, 500].map((amount) => ({ versions: [{ at: "2026-03-02", amount }] }));
	test("a dated next step holds until its day is over", () => {
		expect(flag("no-next-step", deal, "2026-03-10")).toBeUndefined();
		expect(flag("no-next-step", deal, "2026-03-11", {}, bigger)).toMatchObject({ severity: 2 });
	});
	test("a planned activity or an open task from today on is a next step too", () => {
		const planned: TestDeal = { ...deal, activities: [["2026-03-12", "both", "planned"]] };
		expect(flag("no-next-step", planned, "2026-03-12")).toBeUndefined();
		expect(flag("no-next-step", planned, "2026-03-13")).toBeDefined();
		const task = { createdDay: day("2026-03-11"), due: day("2026-03-16") };
		expect(flag("no-next-step", { ...deal, tasks: [task] }, "2026-03-11")).toBeUndefined();
		expect(flag("no-next-step", { ...deal, tasks: [{ ...task, createdDay: day("2026-03-12") }] }, "2026-03-11")).toBeDefined();
		expect(flag("no-next-step", { ...deal, tasks: [{ ...task, state: "done", doneDay: day("2026-03-12") }] }, "2026-03-12")).toBeDefined();
	});
	test("is severe from the 80th percentile of open amounts, or from what is set", () => {
		const big = { versions: [{ at: "2026-03-02", amount: 520 }] };
		expect(flag("no-next-step", big, "2026-03-11", {}, bigger)).toMatchObject({ severity: 3, evidence: { big: 50_400 } });
		expect(flag("no-next-step", big, "2026-03-11", { flags: { "no-next-step": { big: 52_001 } } }, bigger)).toMatchObject({ severity: 2 });
	});
});

describe("under-qualified", () => {
	const deal = (answers: TestDeal["answers"]): TestDeal => ({ versions: [{ at: "2026-03-02" }], answers: answers ?? [] });
	test("a key question that isn’t heard is enough", () => {
		const questions = [{ key: true }, { weight: 2 }];
		expect(
			flag(
				"under-qualified",
				deal([
					[0, "assumed", "2026-03-03"],
					[1, "shown", "2026-03-03"],
				]),
				"2026-03-10",
				{ questions },
			),
		).toMatchObject({ evidence: { keyGaps: ["q1"] } });
		expect(
			flag(
				"under-qualified",
				deal([
					[0, "heard", "2026-03-03"],
					[1, "shown", "2026-03-03"],
				]),
				"2026-03-10",
				{ questions },
			),
		).toBeUndefined();
	});
	test("strength may lie up to the margin below what is expected", () => {
		const questions = [{ weight: 48 }, { weight: 52 }];
		const answers: TestDeal["answers"] = [
			[0, "shown", "2026-03-03"],
			[1, "unknown", "2026-03-03"],
		];
		expect(flag("under-qualified", deal(answers), "2026-03-10", { questions, flags: { "under-qualified": { margin: 19 } } })).toBeUndefined();
		expect(flag("under-qualified", deal(answers), "2026-03-10", { questions, flags: { "under-qualified": { margin: 18 } } })).toMatchObject({
			evidence: { strength: 48, expected: 67 },
		});
	});
});

describe("reply owed", () => {
	const deal: TestDeal = { versions: [{ at: "2026-03-02" }], activities: [["2026-03-06", "in"]] };
	test("fires from two working days after they wrote, over the weekend", () => {
		expect(flag("reply-owed", deal, "2026-03-09")).toBeUndefined();
		expect(flag("reply-owed", deal, "2026-03-10")).toMatchObject({ severity: 3, label: "Reply owed 2 d", evidence: { since: "2026-03-06" } });
	});
	test("an answer clears it", () => {
		const answered: TestDeal = { ...deal, activities: [...(deal.activities ?? []), ["2026-03-09", "out"]] };
		expect(flag("reply-owed", answered, "2026-03-20")).toBeUndefined();
	});
});

describe("blanks", () => {
	test("each missing thing is named", () => {
		const deal: TestDeal = { versions: [{ at: "2026-03-02", amount: null }], account: false, contact: false };
		expect(flag("blank-fields", deal, "2026-03-03")?.evidence).toEqual({ missing: ["amount", "close date", "account name", "contact"] });
		expect(flag("blank-fields", { versions: [{ at: "2026-03-02", close: "2026-05-01" }] }, "2026-03-03")).toBeUndefined();
	});
});

describe("all rules", () => {
	const worst: TestDeal = { versions: [{ at: "2025-01-06", close: "2025-02-03" }], activities: [["2025-01-10", "in"]] };
	test("only open deals carry flags", () => {
		expect(seen(worst, "2026-03-10")?.flags.length).toBeGreaterThan(4);
		const lost: TestDeal = { ...worst, versions: [...worst.versions, { at: "2025-03-03", stage: "Lost" }] };
		expect(seen(lost, "2026-03-10")).toMatchObject({ flags: [], attention: { score: 0, level: "calm" } });
	});
	test("each can be switched off, and takes its standards otherwise", () => {
		for (const rule of RULES) {
			const off = seen(worst, "2026-03-10", { flags: { [rule.code]: { on: false } } });
			expect(off?.flags.map((f) => f.code)).not.toContain(rule.code);
			expect(settingsOf(rule, {}, null)).toEqual(Object.fromEntries(Object.entries(rule.settings).map(([name, spec]) => [name, spec.standard])));
		}
	});
	test("each flag says why, what clears it and what to do, the most severe first", () => {
		const flags = seen(worst, "2026-03-10")?.flags ?? [];
		for (const f of flags) expect([f.label, f.reason, f.clears, f.remedy].every((words) => words.length > 5)).toBe(true);
		expect(flags.map((f) => f.severity)).toEqual(flags.map((f) => f.severity).sort((a, b) => b - a));
	});
	test("a deal that wasn’t there yet isn’t seen", () => {
		expect(seen(worst, "2025-01-05")).toBeNull();
		expect(seen(worst, "2026-03-10")?.path.closedDay).toBe(NO_DAY);
	});
});
