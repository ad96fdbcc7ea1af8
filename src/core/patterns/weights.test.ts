import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { lastPeriods } from "./quarters";
import { chanceAbove, isBetter, judgedBy, severityRecords, sortingOf, weightOfLift, weightsOf } from "./weights";

const TODAY = day("2026-11-24");

describe("the chance that a miss stood above a win", () => {
	const arb = fc.array(fc.record({ won: fc.boolean(), score: fc.integer({ min: 0, max: 12 }) }), { maxLength: 60 });
	test("is that of all pairs, counted one by one, ties half", () => {
		fc.assert(
			fc.property(arb, (scored) => {
				let [above, pairs] = [0, 0];
				for (const miss of scored.filter((one) => !one.won)) {
					for (const win of scored.filter((one) => one.won)) {
						pairs++;
						above += miss.score > win.score ? 1 : miss.score === win.score ? 0.5 : 0;
					}
				}
				const found = chanceAbove(scored);
				if (!pairs) expect(found).toBeNull();
				else expect(found).toBeCloseTo(above / pairs, 12);
			}),
		);
	});
	test("turns round with the scores", () => {
		fc.assert(
			fc.property(arb, (scored) => {
				const found = chanceAbove(scored);
				const turned = chanceAbove(scored.map(({ won, score }) => ({ won, score: -score })));
				if (found === null) expect(turned).toBeNull();
				else expect(found + (turned ?? 0)).toBeCloseTo(1, 12);
			}),
		);
	});
});

describe("weights by lift", () => {
	/** Of each of four past quarters sixteen deals: half overdue by then, most of these missed. */
	const deals = ["2025-10", "2026-01", "2026-04", "2026-07"].flatMap((month) =>
		Array.from({ length: 16 }, (_, i): TestDeal => {
			const end = `${month.slice(0, 5)}${String(Number(month.slice(5)) + 2).padStart(2, "0")}`;
			const late = i < 8;
			const won = late ? i < 2 : i < 14;
			return {
				created: `${month}-02`,
				versions: [
					{ at: `${month}-02`, stage: "Survey", amount: 1000 + i, close: late ? `${month}-10` : `${end}-27` },
					{ at: `${end}-28`, stage: won ? "Won" : "Lost" },
				],
			};
		}),
	);
	const company = makeCompany(deals);
	const looked = lastPeriods(company, "quarter", TODAY, 4, 10);
	test("are none where a flag showed no difference, and more with more lift", () => {
		expect(weightOfLift(1)).toBe(0);
		expect(weightOfLift(0.4)).toBe(0);
		expect(weightOfLift(4)).toBe(0.75);
		const weights = [1, 1.2, 1.5, 2, 3, 9].map(weightOfLift);
		expect(weights).toEqual([...weights].sort((a, b) => a - b));
	});
	test("part all deals by each severity", () => {
		const records = severityRecords(company, looked);
		expect(records.map(({ severity }) => severity)).toEqual([1, 2, 3]);
		for (const { with: own, without } of records) {
			expect(own.n + without.n).toBe(64);
			expect(own.k + without.k).toBe(32);
		}
		expect(records.filter(({ weight }) => weight !== null).every(({ weight }) => (weight as number) >= 0 && (weight as number) < 1)).toBe(true);
	});
	test("sort better than a coin where lit deals were missed, and worse with the flag that foretold it weighing nothing", () => {
		const now = sortingOf(company, looked, {});
		expect([now.missed, now.won]).toEqual([32, 32]);
		expect(now.chance).toBeGreaterThan(0.6);
		const without = sortingOf(company, looked, { unweighed: ["overdue"] });
		expect(without.chance as number).toBeLessThan(now.chance as number);
		const flat = sortingOf(company, looked, { weight1: 0, weight2: 0, weight3: 0 });
		expect(flat.chance).toBe(0.5);
	});
	test("are judged in each period by what the others say, and that period has no part in it", () => {
		const given: string[][] = [];
		const names = (list: readonly (typeof looked)[number][]) => list.map(({ day: on }) => String(on));
		const judged = judgedBy(company, looked, {}, (others) => {
			given.push(names(others));
			return weightsOf(severityRecords(company, others));
		});
		expect(given).toEqual(looked.map((one) => names(looked).filter((on) => on !== String(one.day))));
		judged.forEach(({ now, tried, period }, i) => {
			const others = looked.filter((_, j) => j !== i);
			expect(period).toEqual(looked[i]?.period);
			expect(now).toBe(sortingOf(company, [looked[i] as (typeof looked)[number]], {}).chance);
			expect(tried).toBe(sortingOf(company, [looked[i] as (typeof looked)[number]], weightsOf(severityRecords(company, others))).chance);
		});
	});
	test("of a severity of which too little is known stay as they are", () => {
		const records = severityRecords(company, looked);
		expect(weightsOf(records.map((one) => ({ ...one, weight: null })))).toEqual({});
		expect(weightsOf(records.map((one, i) => ({ ...one, weight: i / 10 })))).toEqual({ weight1: 0, weight2: 0.1, weight3: 0.2 });
	});
	test("are better where they sort at least three of four periods better, and no fewer than three", () => {
		const periods = (...chances: (number | null)[]) => chances.map((tried) => ({ now: 0.5, tried }));
		expect(isBetter(periods(0.6, 0.6, 0.6, 0.4))).toBe(true);
		expect(isBetter(periods(0.9, 0.9, 0.5, 0.5))).toBe(false);
		expect(isBetter(periods(0.9, 0.9, null, 0.9))).toBe(true);
		expect(isBetter(periods(0.9, 0.9))).toBe(false);
		expect(isBetter(periods(0.9, 0.9, 0.9))).toBe(true);
		expect(isBetter(periods(0.9, 0.9, 0.9, 0.1, 0.1))).toBe(false);
		expect(isBetter([])).toBe(false);
	});
});
