import { describe, expect, test } from "vitest";
import { parseDecimal } from "@/core/money/decimal";
import { shortAmount } from "@/core/money/words";
import { type Counted, nothingCounted } from "@/core/period/counted";
import { figuresOf } from "@/core/period/figures";
import { applyMoves, type TriedDeal } from "@/core/period/try";
import { tryFigures, tryFinding } from "@/features/period/table/tryWords";

// Target 1 000 000, won 200 000: 800 000 missing. Open 1 000 000 + 600 000 + 400 000 = 2 000 000: cover 2.5, 40% to be won.
const deal = (id: string, amount: number): TriedDeal => ({
	id,
	amount: amount * 100,
	category: "pipeline",
	probability: parseDecimal("0.5") as NonNullable<ReturnType<typeof parseDecimal>>,
	stage: "Terms",
	owner: "ines",
	level: "calm",
	flags: [],
});
const deals = [deal("a", 1_000_000), deal("b", 600_000), deal("c", 400_000)];
const nothing = nothingCounted();
const real: Counted = { ...nothing, won: { count: 2, amount: 20_000_000 }, open: { count: 3, amount: 200_000_000 } };
const push = (...ids: string[]) => ids.map((value) => ({ whom: { field: "deal" as const, value }, what: "push" as const, percent: 100 }));
const [asItIs, pushed] = [[], push("a", "b")].map((moves) => figuresOf(applyMoves(real, deals, moves).counted, 100_000_000)) as [
	ReturnType<typeof figuresOf>,
	ReturnType<typeof figuresOf>,
];

describe("a try", () => {
	test("that pushes the two largest shows what it changes: open 400k, cover 0.5, 200% of it to be won", () => {
		expect(tryFinding(pushed, asItIs, "EUR")).toBe("Open €400k (was €2.00m), cover 0.5 (was 2.5), share to win 200% (was 40%)");
	});
	test("marks a figure as changed only where it reads otherwise", () => {
		expect(tryFigures(pushed, asItIs, "EUR").map(({ label, was }) => [label, was !== null])).toEqual([
			["won", false],
			["missing", false],
			["open", true],
			["cover", true],
			["share to win", true],
		]);
		expect(tryFigures(asItIs, asItIs, "EUR").every(({ was }) => was === null)).toBe(true);
		expect(tryFinding(asItIs, asItIs, "EUR")).toBe("These moves change none of the period’s figures");
	});
	test("of people without a target says nothing of what is missing", () => {
		const [own, other] = [figuresOf(real, null), figuresOf({ ...real, open: { count: 0, amount: 0 } }, null)];
		expect(tryFinding(other, own, "EUR")).toBe("Open €0 (was €2.00m)");
	});
});

describe("short amounts", () => {
	test.each([
		[0, "0"],
		[99_949, "999"],
		[99_950, "1k"],
		[99_949_999, "999k"],
		[99_950_000, "1.00m"],
		[99_999_499_999, "999.99m"],
		[99_999_500_000, "1.00bn"],
		[100_000_000_000, "1.00bn"],
		[123_456_789_012, "1.23bn"],
		[99_999_500_000_000, "1.00tn"],
		[-123_456_789_012, "−1.23bn"],
		[-30, "0"],
	])("%s cents are %s", (minor, words) => {
		expect(shortAmount(minor, "EUR")).toBe(words);
	});
	test("never reads a thousand of a unit, and never falls as the amount grows", () => {
		const size = { k: 1e3, m: 1e6, bn: 1e9, tn: 1e12 } as const;
		let last = 0;
		for (let units = 1; units < 1e15; units = Math.ceil(units * 1.0137)) {
			const [, digits = "", unit = ""] = /^([\d.]+)(k|m|bn|tn)?$/.exec(shortAmount(units, "JPY")) ?? [];
			if (unit !== "tn") expect(Number(digits), String(units)).toBeLessThan(1000);
			const value = Number(digits) * (size[unit as keyof typeof size] ?? 1);
			expect(value).toBeGreaterThanOrEqual(last);
			last = value;
		}
	});
});
