import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { formatAmount, parseAmount } from "./amount";
import { exponentOf } from "./currency";
import { divideRounded, multiplyRounded, parseDecimal } from "./decimal";
import { makeRates, weightedPart } from "./rates";
import { shortAmount, wholeAmount } from "./words";

const decimal = (text: string) => parseDecimal(text) as NonNullable<ReturnType<typeof parseDecimal>>;

describe("amounts", () => {
	test("are whole minor units of their currency", () => {
		expect(parseAmount("412000.5", "EUR")).toBe(41_200_050);
		expect(parseAmount("1250", "JPY")).toBe(1250);
		expect(parseAmount("1.234", "KWD")).toBe(1234);
		expect([exponentOf("JPY"), exponentOf("EUR"), exponentOf("KWD"), exponentOf("ZZZ")]).toEqual([0, 2, 3, null]);
	});
	test("that can’t be kept exactly are refused, with the reason", () => {
		expect(parseAmount("12,50", "EUR")).toBe("not a number");
		expect(parseAmount("12k", "EUR")).toBe("not a number");
		expect(parseAmount("1e5", "EUR")).toBe("not a number");
		expect(parseAmount("1.234", "EUR")).toBe("too many decimals");
		expect(parseAmount("1.5", "JPY")).toBe("too many decimals");
		expect(parseAmount("90071992547409.92", "EUR")).toBe("too large");
		expect(parseAmount("90071992547409.91", "EUR")).toBe(Number.MAX_SAFE_INTEGER);
		expect(parseAmount("5", "ZZZ")).toBe("unknown currency");
	});
	test("are written as they are read", () => {
		fc.assert(
			fc.property(fc.maxSafeInteger(), fc.constantFrom("EUR", "JPY", "KWD"), (minor, currency) => {
				expect(parseAmount(formatAmount(minor, currency), currency)).toBe(minor);
			}),
		);
	});
	test("read in whole units with narrow spaces, or short", () => {
		expect(wholeAmount(41_200_000, "EUR")).toBe("412\u00a0000");
		expect(wholeAmount(-3_800_000, "EUR")).toBe("−38\u00a0000");
		expect(shortAmount(448_000_000, "EUR")).toBe("4.48m");
		expect(shortAmount(62_000_000, "EUR")).toBe("620k");
		expect(shortAmount(99_999_999, "EUR")).toBe("1.00m");
	});
});

describe("rounding", () => {
	test("goes half away from zero", () => {
		expect([divideRounded(5, 2), divideRounded(-5, 2), divideRounded(4, 3), divideRounded(-4, 3)]).toEqual([3, -3, 1, -1]);
	});
	test("is exact where floating point isn’t, and the same as with big integers", () => {
		fc.assert(
			fc.property(fc.maxSafeInteger(), fc.integer({ min: 1, max: 10_000_000 }), fc.constantFrom(1, 10, 1000, 1_000_000), (a, b, d) => {
				const n = BigInt(a) * BigInt(b);
				const twice = 2n * (n < 0n ? -n : n);
				const size = (twice + BigInt(d)) / (2n * BigInt(d));
				expect(multiplyRounded(a, b, d)).toBe(Number(n < 0n ? -size : size));
			}),
		);
	});
});

describe("the base currency", () => {
	const rates = makeRates("EUR", [
		{ currency: "GBP", day: day("2026-11-01"), rate: decimal("1.20") },
		{ currency: "GBP", day: day("2026-10-01"), rate: decimal("1.155") },
		{ currency: "JPY", day: day("2026-10-01"), rate: decimal("0.0061") },
		{ currency: "KWD", day: day("2026-10-01"), rate: decimal("2.8") },
	]);
	test("takes the newest rate up to the day, and the oldest before all", () => {
		expect(rates.toBase(10_000, "GBP", day("2026-11-24"))).toBe(12_000);
		expect(rates.toBase(10_000, "GBP", day("2026-10-31"))).toBe(11_550);
		expect(rates.toBase(10_000, "GBP", day("2020-01-01"))).toBe(11_550);
	});
	test("minds the decimals of both currencies", () => {
		expect(rates.toBase(100_000, "JPY", day("2026-11-24"))).toBe(61_000);
		expect(rates.toBase(1000, "KWD", day("2026-11-24"))).toBe(280);
	});
	test("rounds a half cent away from zero", () => {
		expect(rates.toBase(10, "GBP", day("2026-10-15"))).toBe(12);
		expect(rates.toBase(-10, "GBP", day("2026-10-15"))).toBe(-12);
	});
	test("needs a rate", () => {
		expect(() => rates.toBase(1, "CHF", 0)).toThrow(/no rate for CHF/);
	});
	test("weights each deal by itself, rounded", () => {
		expect(weightedPart(150, decimal("0.25"))).toBe(38);
		expect(weightedPart(-150, decimal("0.25"))).toBe(-38);
	});
});
