import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { companyAfter, inBlocks } from "@/../tests/kit/company";
import { day, makeCompany, makeRules, type TestDeal } from "../../../tests/kit/company";
import { through } from "../../../tests/kit/steps";
import { attentionOf } from "../attention/attention";
import { attentionOn } from "../attention/settings";
import { blockIndex } from "../history/columns";
import { survivalOf } from "../statistics/survival";
import { formatDay, weekday } from "../time/day";
import { comeBackOn } from "./comeBack";
import { dueIn } from "./due";
import { lastPeriods } from "./quarters";
import { type Lighting, lightingSteps, taskHelp, weekEnds } from "./taskHelp";

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
	test("takes each run of a flag once with a task, at the first week’s end with one, else once in each class of age", () => {
		// Overdue from the first of September on: one is re-dated in October, one is won, one stays, one is lost.
		const late = (after: TestDeal["versions"], tasks: NonNullable<TestDeal["tasks"]> = []): TestDeal => ({
			created: "2026-05-04",
			versions: [{ at: "2026-05-04", stage: "Survey", amount: 1000, close: "2026-08-31" }, ...after],
			tasks,
		});
		const task = { flags: ["overdue"], createdDay: day("2026-09-16"), due: day("2026-10-12") };
		const company = makeCompany([
			late([{ at: "2026-10-05", close: "2026-12-20" }], [{ ...task, state: "done", doneDay: day("2026-10-21") }]),
			late([{ at: "2026-10-06", stage: "Won" }]),
			late([]),
			late([{ at: "2026-09-30", stage: "Lost" }]),
			// It was lit before the 26 weeks, and isn't looked at until it lights again.
			{
				created: "2026-01-05",
				versions: [
					{ at: "2026-01-05", stage: "Survey", close: "2026-02-01" },
					{ at: "2026-09-01", close: "2026-09-20" },
				],
			},
		]);
		const found = through(lightingSteps(company, null, TODAY)).filter(({ flag }) => flag === "overdue");
		const of = (deal: number) => found.filter((one) => one.deal === deal).map(({ day: on, age, withTask, fate }) => [formatDay(on), age, withTask, fate]);
		expect(of(0)).toEqual([
			["2026-09-04", 0, false, "lit"],
			["2026-09-11", 1, false, "lit"],
			["2026-09-18", 1, true, "out"],
		]);
		expect(of(1)).toEqual([
			["2026-09-04", 0, false, "lit"],
			["2026-09-11", 1, false, "lit"],
			["2026-09-25", 3, false, "won"],
		]);
		expect(of(2).map(([, age, , fate]) => [age, fate])).toEqual([
			[0, "lit"],
			[1, "lit"],
			[3, "lit"],
		]);
		expect(of(3).map(([, age, , fate]) => [age, fate])).toEqual([
			[0, "lit"],
			[1, "gone"],
			[3, "gone"],
		]);
		expect(of(4)[0]).toEqual(["2026-09-25", 0, false, "lit"]);
		expect(through(lightingSteps(company, new Set([7]), TODAY))).toEqual([]);
	});
	test("compares within classes of age, weighs them by how many have a task, and leaves lost deals out", () => {
		let deal = 0;
		const many = (n: number, age: 0 | 1 | 3, withTask: boolean, fate: Lighting["fate"]): Lighting[] =>
			Array.from({ length: n }, () => ({ deal: deal++, flag: "stalled", day: TODAY, age, withTask, fate }));
		const list = [
			...many(6, 0, true, "out"),
			...many(2, 0, true, "lit"),
			...many(5, 0, false, "won"),
			...many(5, 0, false, "lit"),
			...many(1, 1, true, "out"),
			...many(3, 1, true, "lit"),
			...many(9, 1, false, "out"),
			...many(4, 3, true, "out"),
			...many(4, 3, true, "lit"),
			...many(2, 3, false, "out"),
			...many(8, 3, false, "lit"),
			...many(7, 3, true, "gone"),
		];
		const { classes, difference, low, high, helps } = taskHelp(list);
		expect(classes.map(({ age, with: has }) => [age, has])).toEqual([
			[0, { out: 6, won: 0, gone: 0, lit: 2 }],
			[1, { out: 1, won: 0, gone: 0, lit: 3 }],
			[3, { out: 4, won: 0, gone: 7, lit: 4 }],
		]);
		// The second class has four with a task, and counts for nothing.
		expect(difference).toBeCloseTo((8 * (0.75 - 0.5) + 8 * (0.5 - 0.2)) / 16, 12);
		const variance = [
			[8, 0.75],
			[8, 0.5],
		].reduce((sum, [n, p]) => sum + ((n as number) * (p as number) * (1 - (p as number))) / 16 ** 2, 0);
		const other = [0.5, 0.2].reduce((sum, p) => sum + (10 * p * (1 - p)) / 20 ** 2, 0);
		expect((high as number) - (difference as number)).toBeCloseTo(1.959964 * Math.sqrt(variance + other), 9);
		expect((difference as number) - (low as number)).toBeCloseTo((high as number) - (difference as number), 12);
		expect(helps).toBe(false);
		// Twice the same of the same deals says no more than once.
		const compared = list.filter(({ age }) => age !== 1);
		expect(taskHelp([...compared, ...compared])).toMatchObject({ difference: expect.closeTo(difference as number, 9), low: expect.closeTo(low as number, 9) });
		expect(taskHelp(list.slice(0, 8))).toMatchObject({ difference: null, low: null, high: null, helps: false });
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
