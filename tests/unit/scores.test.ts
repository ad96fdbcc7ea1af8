import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { ledgerOf, shiftOf } from "@/fakes/emberwick/generate";
import { RECIPES, SPREADS } from "../../bench/calibrate/company";
import { crps, intervalScore, mean } from "../../bench/calibrate/scores";
import { day } from "../kit/company";

const numbers = fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 1, maxLength: 30 });

describe("the score of draws", () => {
	test("is the error of a single number, and less the nearer the draws are", () => {
		expect(crps([3], 5)).toBe(2);
		expect(crps([2, 4], 3)).toBe(0.5);
		expect(crps([0, 10], 5)).toBeGreaterThan(crps([4, 6], 5));
	});
	test("is what its definition says: the mean distance from what came, less half of that between two draws", () => {
		fc.assert(
			fc.property(numbers, fc.integer({ min: -1000, max: 1000 }), (values, came) => {
				const draws = values.sort((a, b) => a - b);
				const off = mean(draws.map((draw) => Math.abs(draw - came))) ?? 0;
				const apart = mean(draws.flatMap((a) => draws.map((b) => Math.abs(a - b)))) ?? 0;
				expect(crps(draws, came)).toBeCloseTo(off - apart / 2, 8);
			}),
		);
	});
	test("doesn’t depend on where zero lies, grows with the unit, and is never below zero", () => {
		fc.assert(
			fc.property(numbers, fc.integer({ min: -1000, max: 1000 }), (values, came) => {
				const draws = values.sort((a, b) => a - b);
				const own = crps(draws, came);
				expect(own).toBeGreaterThanOrEqual(-1e-9);
				expect(
					crps(
						draws.map((draw) => draw + 77),
						came + 77,
					),
				).toBeCloseTo(own, 8);
				expect(
					crps(
						draws.map((draw) => draw * 3),
						came * 3,
					),
				).toBeCloseTo(own * 3, 8);
			}),
		);
	});
});

test("the score of a band is its width within, and ten times the distance outside of one that holds eight of ten", () => {
	expect([intervalScore(2, 6, 2, 0.8), intervalScore(2, 6, 6, 0.8), intervalScore(2, 6, 7, 0.8), intervalScore(2, 6, 1, 0.8)].map(Math.round)).toEqual([
		4, 4, 14, 14,
	]);
});

describe("a company whose quarters go apart", () => {
	const today = day("2026-11-24");
	const recipe = { today, seed: "apart", deals: 600 };
	const endings = (spread: number) => {
		const byQuarter = new Map<string, { won: number; all: number }>();
		for (const { fields } of ledgerOf({ ...recipe, spread }).rows.get("deal_versions.csv") ?? []) {
			if (fields.stage !== "Won" && fields.stage !== "Lost") continue;
			const at = String(fields.at);
			const key = `${at.slice(0, 4)} ${Math.ceil(Number(at.slice(5, 7)) / 3)}`;
			const own = byQuarter.get(key) ?? { won: 0, all: 0 };
			byQuarter.set(key, { won: own.won + Number(fields.stage === "Won"), all: own.all + 1 });
		}
		return byQuarter;
	};
	test("wins more in a quarter that goes well than in one that goes badly", () => {
		const going = endings(2);
		const quarters = [...going]
			.filter(([, { all }]) => all >= 25)
			.map(([key, { won, all }]) => {
				const [year = 0, quarter = 0] = key.split(" ").map(Number);
				return { share: won / all, shift: shiftOf("apart", 2, day(`${year}-${String(quarter * 3).padStart(2, "0")}-10`)) };
			});
		const [worst, best] = [quarters.filter(({ shift }) => shift < -1), quarters.filter(({ shift }) => shift > 1)].map((some) =>
			mean(some.map(({ share }) => share)),
		);
		expect(worst).toBeLessThan((best as number) - 0.15);
	});
	test("has the same shift for all days of a quarter, and is another by another seed or spread", () => {
		const shifts = ["2026-01-01", "2026-02-14", "2026-03-31"].map((one) => shiftOf("apart", 0.8, day(one)));
		expect(new Set(shifts).size).toBe(1);
		expect(shiftOf("apart", 1.6, day("2026-01-01"))).toBeCloseTo(2 * (shifts[0] as number), 10);
		expect(shiftOf("other", 0.8, day("2026-01-01"))).not.toBe(shifts[0]);
		const many = Array.from({ length: 800 }, (_, i) => shiftOf(`seed ${i}`, 0.8, today));
		expect(Math.abs(mean(many) as number)).toBeLessThan(0.1);
		expect(Math.sqrt(mean(many.map((one) => one ** 2)) as number)).toBeCloseTo(0.8, 1);
	});
	test("comes in each of twelve kinds once", () => {
		expect(RECIPES).toHaveLength(12);
		expect(new Set(RECIPES.map(({ size, spread }) => `${size} ${spread}`)).size).toBe(12);
		expect(SPREADS.none).toBe(0);
	});
});
