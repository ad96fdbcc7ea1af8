import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { companyAfter, inBlocks } from "@/../tests/kit/company";
import { day, makeCompany, makeRules, type TestDeal } from "../../../tests/kit/company";
import { attentionOf } from "../attention/attention";
import { attentionOn } from "../attention/settings";
import { blockIndex } from "../history/columns";
import { survivalOf } from "../statistics/survival";
import { apart, shareOf } from "../statistics/wilson";
import { formatDay, weekday } from "../time/day";
import { comeBackOn } from "./comeBack";
import { dueIn } from "./due";
import { lastPeriods } from "./quarters";
import { watchedSteps, weekEnds } from "./taskHelp";

const TODAY = day("2026-11-24");
const { calendar } = makeRules();

describe("the day to come back to a lost deal", () => {
	const on = (returns: "year" | number, lost: string, from = "2026-11-25", fiscal = 1) =>
		formatDay(comeBackOn(returns, day(lost), day(from), fiscal, calendar));
	test("is the first working day of the next fiscal year, or so many months after the loss", () => {
		expect(on("year", "2026-09-23")).toBe("2027-01-01");
		expect(on("year", "2026-09-23", "2026-11-25", 4)).toBe("2027-04-01");
		expect(on("year", "2026-02-10", "2026-11-25", 4)).toBe("2026-11-25");
		expect(on(6, "2026-08-31")).toBe("2027-03-01");
		expect(on(24, "2024-02-29", "2026-01-01")).toBe("2026-03-02");
	});
	test("is a working day and never lies behind", () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 1, max: 36 }), fc.integer({ min: 1, max: 12 }), (ago, months, fiscal) => {
				for (const returns of ["year", months] as const) {
					const back = comeBackOn(returns, TODAY - ago, TODAY + 1, fiscal, calendar);
					expect(back).toBeGreaterThan(TODAY);
					expect(calendar.isWorking(back)).toBe(true);
				}
			}),
		);
	});
});

describe("whether a task helps", () => {
	test("is asked at the last working days of 26 weeks, the latest 15 working days ago", () => {
		const ends = weekEnds(makeCompany([]), TODAY);
		expect(ends).toHaveLength(26);
		expect(formatDay(ends[0] as number)).toBe("2026-10-30");
		expect(ends.every((end) => weekday(end) === 5)).toBe(true);
		expect(calendar.between(ends[0] as number, TODAY)).toBeGreaterThanOrEqual(15);
		const holiday = makeCompany([], { holidays: ["2026-10-30"] });
		expect(formatDay(weekEnds(holiday, TODAY)[0] as number)).toBe("2026-10-29");
	});
	test("counts a flag with a task that names it, open or given within the week, and without one; out where it is gone or the deal is won", () => {
		// Overdue from the first of September on: one is re-dated in October, one is won, one stays.
		const late = (after: TestDeal["versions"], tasks: NonNullable<TestDeal["tasks"]> = []): TestDeal => ({
			created: "2026-05-04",
			versions: [{ at: "2026-05-04", stage: "Survey", amount: 1000, close: "2026-08-31" }, ...after],
			tasks,
		});
		const task = { flags: ["overdue"], createdDay: day("2026-10-05"), due: day("2026-10-12") };
		const company = makeCompany([
			late([{ at: "2026-10-20", close: "2026-12-20" }], [{ ...task, state: "done", doneDay: day("2026-10-21") }]),
			late([{ at: "2026-10-22", stage: "Won" }]),
			late([]),
		]);
		const steps = watchedSteps(company, null, TODAY);
		let step = steps.next();
		while (!step.done) step = steps.next();
		const overdue = step.value.filter(({ flag }) => flag === "overdue");
		const at = (deal: number, iso: string) => overdue.find((one) => one.deal === deal && one.day === day(iso));
		expect(at(0, "2026-10-02")).toMatchObject({ withTask: false, out: true });
		expect(at(0, "2026-10-09")).toMatchObject({ withTask: true, out: true });
		expect(at(0, "2026-10-16")).toMatchObject({ withTask: true, out: true });
		expect(at(0, "2026-09-11")).toMatchObject({ withTask: false, out: false });
		expect(at(0, "2026-10-30")).toBeUndefined();
		expect(at(1, "2026-10-16")).toMatchObject({ withTask: false, out: true });
		expect(at(2, "2026-10-30")).toMatchObject({ withTask: false, out: false });
		expect(overdue.filter(({ deal }) => deal === 2).every(({ out }) => !out)).toBe(true);
	});
});

describe("a median’s interval", () => {
	test("holds the median, and with many of the same lies close around it", () => {
		fc.assert(
			fc.property(
				fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 6, maxLength: 60 }),
				fc.array(fc.integer({ min: 1, max: 60 }), { maxLength: 20 }),
				(finished, unfinished) => {
					const { median, interval } = survivalOf(finished, unfinished);
					if (median === null) return;
					expect(interval.low as number).toBeLessThanOrEqual(median);
					if (interval.high !== null) expect(interval.high).toBeGreaterThanOrEqual(median);
				},
			),
		);
		const many = Array.from({ length: 900 }, (_, i) => 10 + (i % 9));
		const { interval } = survivalOf(many, []);
		expect((interval.high as number) - (interval.low as number)).toBeLessThanOrEqual(1);
	});
});

describe("two shares", () => {
	test("are told apart only where both are said and their intervals don’t overlap, whichever comes first", () => {
		expect(apart(shareOf(38, 40), shareOf(8, 40))).toBe(true);
		expect(apart(shareOf(22, 40), shareOf(18, 40))).toBe(false);
		expect(apart(shareOf(4, 4), shareOf(0, 40))).toBe(false);
		expect(apart(shareOf(8, 40), shareOf(38, 40))).toBe(true);
	});
});

describe("attention that was set otherwise before", () => {
	const set = {
		attention: { weight3: 0.9 },
		attentionWas: [
			{ until: day("2026-03-01"), set: {} },
			{ until: day("2026-06-01"), set: { weight3: 0.2 } },
		],
	};
	test("holds on each day as it was set then", () => {
		expect(attentionOn(set, day("2026-02-28"))).toEqual({});
		expect(attentionOn(set, day("2026-03-01"))).toEqual({ weight3: 0.2 });
		expect(attentionOn(set, day("2026-06-01"))).toEqual({ weight3: 0.9 });
		expect(attentionOn({ attention: {} }, TODAY)).toEqual({});
	});
	test("an unweighed flag weighs nothing and lifts nothing to watch", () => {
		const flags = [{ code: "overdue", severity: 3 as const }];
		const of = (unweighed: string[]) => attentionOf(flags, 900, 100, TODAY - 3, TODAY, calendar, { unweighed });
		expect(of([])).toMatchObject({ level: "watch" });
		expect(of(["overdue"])).toMatchObject({ score: 0, risk: 0, level: "calm" });
		expect(of(["slipped"])).toEqual(of([]));
	});
});

describe("what was due, carried on to the next company", () => {
	const deals = Array.from(
		{ length: 12 },
		(_, i): TestDeal => ({
			created: "2026-07-02",
			versions: [
				{ at: "2026-07-02", stage: "Survey", amount: 1000 + i, close: "2026-09-25", owner: i % 2 },
				...(i < 6 ? [{ at: "2026-09-27", stage: "Won" }] : []),
			],
		}),
	);
	const look = (company: ReturnType<typeof makeCompany>) => lastPeriods(company, "quarter", TODAY, 1, 10).map((one) => dueIn(company, one));
	// Words of flags are functions, which are never the same.
	const plain = (lists: ReturnType<typeof look>) => JSON.parse(JSON.stringify(lists));
	test("is what it is when all of it is looked at anew, whatever changed", () => {
		fc.assert(
			fc.property(fc.nat(11), fc.constantFrom("won later", "won in time", "gone that day", "dearer then", "now"), (which, what) => {
				const change: Record<string, TestDeal["versions"]> = {
					"won later": [{ at: "2026-10-20", stage: "Won" }],
					"won in time": [{ at: "2026-09-29", stage: "Won" }],
					"gone that day": [{ at: "2026-08-01", stage: "Lost" }],
					"dearer then": [{ at: "2026-08-01", amount: 90_000 }],
					now: [{ at: "2026-11-24", amount: 5 }],
				};
				const before = makeCompany(inBlocks(deals, deals));
				look(before);
				const other = deals.map((deal, i) => (i === which ? { ...deal, versions: [...deal.versions.slice(0, 1), ...(change[what] ?? [])] } : deal));
				const fresh = () => makeCompany(inBlocks(other, deals));
				expect(plain(look(companyAfter(before, fresh(), new Set([which]))))).toEqual(plain(look(fresh())));
			}),
		);
	});
	test("takes untouched deals over as they were", () => {
		const company = () => makeCompany(inBlocks(deals, deals));
		const before = company();
		const [was] = look(before);
		const [is] = look(companyAfter(before, company(), new Set([3])));
		const same = (block: number) => is?.filter((one) => was?.includes(one) && blockIndex(one.seen.deal) === block).length;
		expect([same(0), same(1)]).toEqual([0, 12]);
	});
});
