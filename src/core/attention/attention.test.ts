import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeRules } from "../../../tests/kit/company";
import type { Severity } from "../flags/settings";
import { NO_DAY } from "../time/day";
import { attentionOf, byAttention } from "./attention";
import { type AttentionSettings, attentionOn, ownAttention } from "./settings";

const { calendar } = makeRules();
const seen = day("2026-11-24");
const attention = (severities: Severity[], amount: number, median: number, close: number, set: AttentionSettings = {}) =>
	attentionOf(
		severities.map((severity) => ({ code: `flag-${severity}`, severity })),
		amount,
		median,
		close,
		seen,
		calendar,
		set,
	);

describe("attention", () => {
	test("of the worked example is 58, and asks to act", () => {
		const result = attention([3, 2, 1], 41_200_000, 9_800_000, seen - 6);
		expect(result).toMatchObject({ score: 58, level: "act", urgency: 1 });
		expect(result.risk).toBeCloseTo(0.637, 5);
		expect(result.stake).toBeCloseTo(0.8078, 4);
	});
	test("a severe flag never leaves a deal calm", () => {
		expect(attention([3], 100, 9_800_000, seen + 300)).toMatchObject({ level: "watch" });
		expect(attention([], 41_200_000, 100, seen - 6)).toMatchObject({ score: 0, level: "calm" });
	});
	test("a deal without a date is as urgent as an overdue one; far dates keep a fifth", () => {
		expect(attention([1], 1, 1, NO_DAY).urgency).toBe(1);
		expect(attention([1], 1, 1, seen + 400).urgency).toBe(0.2);
		expect(attention([1], 1, 1, seen).urgency).toBe(1);
	});
	test("levels begin at 50 and 30, or where they are set; weights too", () => {
		// One flag of severity 2 on an overdue deal, everything at stake: 25.
		const calm = (set: AttentionSettings) => attention([2], 1e12, 0, seen - 6, set);
		expect(calm({})).toMatchObject({ score: 25, level: "calm" });
		expect(calm({ watch: 25 })).toMatchObject({ score: 25, level: "watch" });
		expect(calm({ watch: 20, act: 25 })).toMatchObject({ level: "act" });
		expect(calm({ weight2: 0.5 })).toMatchObject({ score: 50, level: "act" });
		expect(calm({ weight2: 0.49 })).toMatchObject({ score: 49, level: "watch" });
		expect(calm({ weight2: 0.29 })).toMatchObject({ level: "calm" });
	});
	test("nothing at stake is no division by zero", () => expect(attention([1], 0, 0, seen).stake).toBe(0));
	test("one more flag never lowers it, and it stays within 0 and 100", () => {
		const severity = fc.constantFrom<Severity>(1, 2, 3);
		fc.assert(
			fc.property(
				fc.array(severity, { maxLength: 9 }),
				severity,
				fc.nat(),
				fc.nat(),
				fc.integer({ min: -100, max: 500 }),
				(list, more, amount, median, offset) => {
					const before = attention(list, amount, median, seen + offset).score;
					const after = attention([...list, more], amount, median, seen + offset).score;
					expect(after).toBeGreaterThanOrEqual(before);
					expect(after).toBeLessThanOrEqual(100);
				},
			),
		);
	});
	test("lists go by attention, then amount, then id", () => {
		const rows = [
			{ score: 1, amountBase: 5, id: "b" },
			{ score: 1, amountBase: 5, id: "a" },
			{ score: 1, amountBase: 9, id: "c" },
			{ score: 2, amountBase: 0, id: "d" },
		];
		expect(rows.sort(byAttention).map((row) => row.id)).toEqual(["d", "c", "a", "b"]);
	});
});

test("a flag that is told and doesn’t weigh adds nothing, nor keeps its deal from being calm", () => {
	expect(attention([3], 1e12, 0, seen - 6, { unweighed: ["flag-3"] })).toMatchObject({ score: 0, level: "calm", risk: 0 });
	expect(attention([3, 2], 1e12, 0, seen - 6, { unweighed: ["flag-3"] })).toEqual(attention([2], 1e12, 0, seen - 6));
});

test("without an amount and a median nothing is at stake; a deal as large as the median has half of it", () => {
	expect(attention([1], 0, 0, seen).stake).toBe(0);
	expect(attention([1], -5, 0, seen).stake).toBe(0);
	expect(attention([1], 700, 700, seen).stake).toBe(0.5);
});

test("of two with one score and amount the first by id comes first", () => {
	const deal = (id: string) => ({ id, score: 5, amountBase: 9 });
	expect([byAttention(deal("a"), deal("b")), byAttention(deal("b"), deal("a")), byAttention(deal("a"), deal("a"))]).toEqual([-1, 1, 0]);
});

test("what was set until a day holds before it, and the first entry that does; what repeats a standard isn’t kept", () => {
	const was = {
		attention: { act: 60 },
		attentionWas: [
			{ until: 100, set: { act: 40 } },
			{ until: 200, set: { act: 45 } },
		],
	};
	expect([99, 100, 199, 200].map((on) => attentionOn(was, on).act)).toEqual([40, 45, 45, 60]);
	expect(attentionOn({ attention: { act: 60 } }, 5)).toEqual({ act: 60 });
	expect(ownAttention({ act: 50, watch: 31, unweighed: [] })).toEqual({ watch: 31 });
	expect(ownAttention({ unweighed: ["slipped"] })).toEqual({ unweighed: ["slipped"] });
	expect(ownAttention(undefined)).toBeUndefined();
});
