import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { through } from "../../../tests/kit/steps";
import { inspect } from "../inspect";
import { normsOn } from "../norms";
import { kindOfPeriod, outlookSteps, whyNone } from "../outlook/outlook";
import { survivalOf } from "../statistics/survival";
import { shareOf } from "../statistics/wilson";
import { makeCalendar } from "../time/calendar";
import { dueIn } from "./due";
import { daysBefore, lastPeriods } from "./quarters";
import { accuracyOf, answerRecords, flagRecords, lightRecords } from "./records";
import { timeInStage } from "./timeInStage";

describe("worked examples", () => {
	test("Wilson: 7 of 10", () => {
		const { share, low, high } = shareOf(7, 10);
		expect([share, low, high].map((value) => value?.toFixed(4))).toEqual(["0.7000", "0.3968", "0.8922"]);
		expect(shareOf(2, 4)).toEqual({ k: 2, n: 4, share: null, low: null, high: null });
	});
	test("Kaplan–Meier: 5, 8, 8, 15 finished and 12, 20 not", () => {
		const { curve, median } = survivalOf([5, 8, 8, 15], [12, 20]);
		expect(median).toBe(8);
		expect(curve[0]?.share).toBeCloseTo(5 / 6);
		expect(curve[1]?.share).toBeCloseTo(0.5);
		expect(survivalOf([5], [9, 9, 9]).median).toBeNull();
	});
	test("20 working days before 30 Sep 2026 is 2 Sep", () => {
		expect(daysBefore(makeCalendar([0, 6], []), day("2026-09-30"), 20)).toBe(day("2026-09-02"));
		expect(daysBefore(makeCalendar([0, 6], []), day("2026-09-30"), 0)).toBe(day("2026-09-30"));
	});
});

describe("laws of shares and curves", () => {
	test("an interval holds its share, and is narrower with more of the same", () => {
		fc.assert(
			fc.property(fc.integer({ min: 5, max: 400 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, at) => {
				const k = Math.round(at * n);
				const { share, low, high } = shareOf(k, n) as { share: number; low: number; high: number };
				expect(low).toBeLessThanOrEqual(share + 1e-12);
				expect(high).toBeGreaterThanOrEqual(share - 1e-12);
				const more = shareOf(4 * k, 4 * n) as { low: number; high: number };
				expect(more.high - more.low).toBeLessThan(high - low);
			}),
		);
	});
	test("a curve only falls, and with nothing unfinished it is the plain share that goes on", () => {
		const lengths = fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 40 });
		fc.assert(
			fc.property(lengths, lengths, (finished, unfinished) => {
				const shares = survivalOf(finished, unfinished).curve.map(({ share }) => share);
				expect(shares).toEqual([...shares].sort((a, b) => b - a));
				for (const { length, share } of survivalOf(finished, []).curve)
					expect(share).toBeCloseTo(finished.filter((one) => one > length).length / finished.length, 9);
			}),
		);
	});
});

/** Deals of three past quarters and this one: of each quarter ten, won in the order of their numbers as the share says. */
const QUARTERS = ["2025-10", "2026-01", "2026-04", "2026-07", "2026-10"];
const deals = (wonOf: number): TestDeal[] =>
	QUARTERS.flatMap((month, q) =>
		Array.from({ length: 10 }, (_, i): TestDeal => {
			const close = `${month.slice(0, 5)}${String(Number(month.slice(5)) + 2).padStart(2, "0")}-25`;
			const over = q < QUARTERS.length - 1;
			const won = over && i < wonOf;
			return {
				created: `${month}-02`,
				versions: [
					{ at: `${month}-02`, stage: "Survey", amount: 1000, close, owner: i % 2, category: i < 5 ? "commit" : "pipeline" },
					...(won ? [{ at: `${close.slice(0, 8)}27`, stage: "Won" }] : over ? [{ at: `${close.slice(0, 8)}28`, stage: "Lost" }] : []),
				],
			} as TestDeal;
		}),
	);
const TODAY = day("2026-11-24");
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

describe("the past of this organisation", () => {
	const company = makeCompany(deals(6));
	const looked = lastPeriods(company, "quarter", TODAY, 4, 10);
	test("is looked at on the day so far before each end, the latest first", () => {
		expect(looked.map(({ period }) => period.end)).toEqual(["2026-09-30", "2026-06-30", "2026-03-31", "2025-12-31"].map(day));
		expect(looked.every(({ period, day: on }) => company.rules.calendar.between(on, period.end) === 10)).toBe(true);
		expect(looked.map((one) => dueIn(company, one).length)).toEqual([10, 10, 10, 10]);
	});
	test("counts what was in commit and came true, by owner adding up to the whole", () => {
		const { count, amount, people } = accuracyOf(company, looked, "commit", null);
		expect([count.k, count.n, amount.k, amount.n]).toEqual([20, 20, 20 * 1000_00, 20 * 1000_00]);
		expect(people.reduce((sum, one) => sum + one.count.n, 0)).toBe(count.n);
		const rest = accuracyOf(company, looked, "pipeline", new Set([0]));
		expect(rest.people.every(({ owner }) => owner === 0)).toBe(true);
		expect(accuracyOf(company, looked, "pipeline", null).count).toMatchObject({ k: 4, n: 20 });
	});
	test("parts the deals by flag, by level and by answer, each of them whole", () => {
		for (const record of flagRecords(company, looked, TODAY)) expect([record.with.n + record.without.n, record.with.k + record.without.k]).toEqual([40, 16]);
		expect(lightRecords(company, looked).reduce((sum, { n }) => sum + n, 0)).toBe(40);
		const answers = answerRecords(company, looked);
		for (const question of new Set(answers.map((one) => one.question)))
			expect(answers.filter((one) => one.question === question).reduce((sum, { n }) => sum + n, 0)).toBe(40);
	});
	test("knows nothing of what came after each day looked at but who was won", () => {
		const poisoned = deals(6).map((deal, i) => {
			const at = `${(QUARTERS[Math.floor(i / 10)] ?? "").slice(0, 5)}${String(Number((QUARTERS[Math.floor(i / 10)] ?? "").slice(5)) + 2).padStart(2, "0")}`;
			// After the day that is looked at, everything that was known goes wild.
			return {
				...deal,
				versions: [
					...deal.versions.slice(0, 1),
					{ at: `${at}-20`, amount: 9_999_999, close: "2031-01-01", owner: 1, category: "left_out" },
					...deal.versions.slice(1),
				],
			} as TestDeal;
		});
		const other = makeCompany(poisoned);
		const theirs = lastPeriods(other, "quarter", TODAY, 4, 10);
		expect(accuracyOf(other, theirs, "commit", null)).toEqual(accuracyOf(company, looked, "commit", null));
		expect(lightRecords(other, theirs)).toEqual(lightRecords(company, looked));
		expect(flagRecords(other, theirs, TODAY)).toEqual(flagRecords(company, looked, TODAY));
	});
	test("says how long deals stay in a stage, each group’s visits once", () => {
		const times = timeInStage(company, TODAY, (_, owner) => [String(owner)]);
		const begun = deals(6).filter(({ created }) => day(created ?? "") > TODAY - 365).length;
		expect(times.reduce((sum, one) => sum + one.finished + one.unfinished, 0)).toBe(begun);
		expect(timeInStage(company, TODAY, () => [])).toEqual([]);
		for (const { mean, finished } of times) if (mean !== null) expect(finished).toBeGreaterThan(0);
	});
});

describe("the outlook", () => {
	const make = (wonOf: number, target: number | null = 5000_00, scope: ReadonlySet<number> | null = null) => {
		const company = makeCompany(deals(wonOf));
		const norms = normsOn(company, TODAY);
		const survey = { norms, deals: company.deals.map((_, deal) => inspect(company, deal, norms)) };
		return through(outlookSteps(company, survey, Q4, scope, TODAY, target, "q"));
	};
	test("has its mean where the chances say, its band around the middle, and is the same when asked again", () => {
		const outlook = make(6);
		if (!outlook) throw new Error("no outlook");
		expect(outlook.periods).toHaveLength(4);
		expect(outlook.deals).toHaveLength(10);
		expect(outlook.mean).toBeCloseTo(
			outlook.won + outlook.deals.reduce((sum, { chance, amount }) => sum + chance * amount * outlook.amountRatio, 0) + outlook.fresh,
			6,
		);
		expect(outlook.low).toBeLessThanOrEqual(outlook.middle);
		expect(outlook.middle).toBeLessThanOrEqual(outlook.high);
		expect(Math.abs(outlook.middle - outlook.mean)).toBeLessThan(1000_00);
		expect(make(6)).toEqual(outlook);
		expect(outlook.amountRatio).toBe(1);
		expect(outlook.fresh).toBe(0);
	});
	test("rises with what was won before, and the chance of a lower target is no smaller", () => {
		const means = [1, 4, 8].map((won) => make(won)?.mean ?? 0);
		expect(means).toEqual([...means].sort((a, b) => a - b));
		const chances = [0, 3000_00, 6000_00, 99_000_00].map((target) => make(6, target)?.chanceOfTarget ?? -1);
		expect(chances).toEqual([...chances].sort((a, b) => b - a));
		expect([chances[0], chances.at(-1)]).toEqual([1, 0]);
		expect(make(6, null)?.chanceOfTarget).toBeNull();
	});
	test("the deals that decide hold two thirds of all swing, and not one more than that needs", () => {
		const { deals: all } = make(6) as NonNullable<ReturnType<typeof make>>;
		const whole = all.reduce((sum, { swing }) => sum + swing, 0);
		const deciding = all.filter(({ decides }) => decides);
		const held = deciding.reduce((sum, { swing }) => sum + swing, 0);
		expect(held).toBeGreaterThanOrEqual((whole * 2) / 3 - 1);
		expect(held - (deciding.at(-1)?.swing ?? 0)).toBeLessThan((whole * 2) / 3);
	});
	test("scores itself on each past period by the others alone", () => {
		const { record } = make(6) as NonNullable<ReturnType<typeof make>>;
		expect(record.periods.map(({ total }) => total)).toEqual([6000_00, 6000_00, 6000_00, 6000_00]);
		expect(record.brier).toBeGreaterThan(0);
		expect(record.brier).toBeLessThan(0.25);
		expect(record.calibration.reduce((sum, { n }) => sum + n, 0)).toBe(40);
		expect(record.periods.every(({ low, high, total, inside }) => inside === (total >= low && total <= high))).toBe(true);
	});
	test("of parts of the people adds up in its mean, and isn’t given where the past is too short", () => {
		const parts = [0, 1].map((owner) => make(6, null, new Set([owner]))?.mean ?? 0);
		expect((parts[0] ?? 0) + (parts[1] ?? 0)).toBeCloseTo(make(6)?.mean ?? 0, 4);
		const young = makeCompany(deals(6).slice(20));
		expect(whyNone(young, Q4, TODAY)).toBeNull();
		expect(whyNone(makeCompany(deals(6).slice(30)), Q4, TODAY)).toContain("there is 1");
		expect(whyNone(young, { ...Q4, end: Q4.end - 1 }, TODAY)).toContain("a quarter or a month");
		expect(kindOfPeriod(young, { start: day("2026-11-01"), end: day("2026-11-30") })).toBe("month");
	});
});
