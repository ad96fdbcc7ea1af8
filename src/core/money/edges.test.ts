import { describe, expect, test } from "vitest";
import { formatAmount, parseAmount } from "./amount";
import { exponentOf } from "./currency";
import { divideRounded, multiplyRounded, parseDecimal, roundHalfAway, toNumber } from "./decimal";
import { currencySign, exactAmount, fullAmount, grouped, shortAmount, wholeAmount } from "./words";

const _ = "\u00a0";

describe("a decimal", () => {
	test("is read with its sign and without its last zeros, and nothing else is", () => {
		expect(parseDecimal(" -12.50 ")).toEqual({ units: -125, scale: 1 });
		expect(parseDecimal("+0.0700")).toEqual({ units: 7, scale: 2 });
		expect(parseDecimal("100")).toEqual({ units: 100, scale: 0 });
		expect(parseDecimal("1.0203")).toEqual({ units: 10203, scale: 4 });
		expect(parseDecimal("-0")).toEqual({ units: 0, scale: 0 });
		for (const text of ["", "x1", "1x", "1.", ".5", "1e3", "--1", "9007199254740993"]) expect(parseDecimal(text)).toBeNull();
		expect(toNumber({ units: 116_25, scale: 4 })).toBe(1.1625);
	});
	test("is rounded half away from zero, on both sides, at and around the half", () => {
		expect([2.5, -2.5, 2.4, -2.4, 0, -0.4].map(roundHalfAway)).toEqual([3, -3, 2, -2, 0, 0]);
		expect(Object.is(roundHalfAway(-0.4), 0)).toBe(true);
		expect([divideRounded(0, 7), divideRounded(-1, 7), divideRounded(7, 7), divideRounded(10, 4), divideRounded(-10, 4)]).toEqual([0, 0, 1, 3, -3]);
		expect(Object.is(divideRounded(-1, 7), 0)).toBe(true);
		// The product is beyond 2^53: halves go away from zero there too.
		const big = 9_007_199_254_740_991;
		expect(multiplyRounded(big, 5, 10)).toBe(4_503_599_627_370_496);
		expect(multiplyRounded(-big, 5, 10)).toBe(-4_503_599_627_370_496);
		expect(multiplyRounded(big, 10, 10)).toBe(big);
		expect(multiplyRounded(-big, 10, 10)).toBe(-big);
		// Floating point rounds this quotient up to the next whole number.
		expect(divideRounded(big, 2)).toBe(4_503_599_627_370_496);
		expect(divideRounded(big - 2, big)).toBe(1);
	});
});

describe("an amount in words", () => {
	test("has its currency’s sign, or its code", () => {
		expect(["EUR", "GBP", "USD", "JPY", "CHF"].map(currencySign)).toEqual(["€", "£", "$", "¥", `CHF${_}`]);
	});
	test("has its thousands parted, all of them", () => {
		expect([0, 999, 1000, 1_234_567, 1_000_000_000].map(grouped)).toEqual(["0", "999", `1${_}000`, `1${_}234${_}567`, `1${_}000${_}000${_}000`]);
	});
	test("says nothing of a sign where nothing is left, in whole units and in short", () => {
		expect([wholeAmount(-49, "EUR"), wholeAmount(-50, "EUR"), wholeAmount(0, "EUR"), wholeAmount(1234, "JPY"), wholeAmount(1500, "KWD")]).toEqual([
			"0",
			"−1",
			"0",
			`1${_}234`,
			"2",
		]);
		expect([shortAmount(-40, "EUR"), shortAmount(-62_000_000, "EUR"), shortAmount(0, "EUR"), shortAmount(94_000, "EUR")]).toEqual(["0", "−620k", "0", "940"]);
		expect([shortAmount(99_949, "EUR"), shortAmount(99_950, "EUR"), shortAmount(99_949_999, "EUR"), shortAmount(99_950_000, "EUR")]).toEqual([
			"999",
			"1k",
			"999k",
			"1.00m",
		]);
		expect([shortAmount(620, "JPY"), shortAmount(1_000_000, "ZZZ")]).toEqual(["620", "10k"]);
	});
	test("has all its decimals where it is told exactly, and none where there are none", () => {
		expect([exactAmount(5, "EUR"), exactAmount(-5, "EUR"), exactAmount(0, "EUR"), exactAmount(-123_456, "EUR")]).toEqual([
			"0.05",
			"−0.05",
			"0.00",
			`−1${_}234.56`,
		]);
		expect([exactAmount(1234, "JPY"), exactAmount(1234, "KWD"), exactAmount(1234, "ZZZ")]).toEqual([`1${_}234`, "1.234", "12.34"]);
		expect([fullAmount(-150, "EUR"), fullAmount(-200, "EUR"), fullAmount(7, "JPY"), fullAmount(100, "ZZZ")]).toEqual(["−1.50", "−2", "7", "1"]);
	});
	test("is read with spaces around it, written without, and never without its sign", () => {
		expect(parseAmount(" 12.5 ", "EUR")).toBe(1250);
		expect(parseAmount("12.500", "EUR")).toBe(1250);
		expect(parseAmount("1.2030", "KWD")).toBe(1203);
		expect([formatAmount(-5, "EUR"), formatAmount(0, "EUR"), formatAmount(1_203_000, "KWD")]).toEqual(["-0.05", "0", "1203"]);
		expect(["EUR", "CHF", "JPY", "KWD", "BHD", "ISK", "XYZ"].map((code) => exponentOf(code))).toEqual([2, 2, 0, 3, 3, 0, null]);
	});
});
