import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { pastedCells, readTyped, typedOf } from "@/features/period/table/grid";

describe("a cell of the grid of targets", () => {
	test.each([
		["450000", 450_000_00, "EUR"],
		["450 000", 450_000_00, "EUR"],
		["450\u202f000", 450_000_00, "EUR"],
		["450'000", 450_000_00, "EUR"],
		["450,000", 450_000_00, "EUR"],
		["450.000", 450_000_00, "EUR"],
		["1.200.000", 1_200_000_00, "EUR"],
		["1,200,000.50", 1_200_000_50, "EUR"],
		["1.200.000,50", 1_200_000_50, "EUR"],
		["12.5", 12_50, "EUR"],
		["€ 90 000", 90_000_00, "EUR"],
		["90000 gbp", 90_000_00, "GBP"],
		["5000 JPY", 5000, "JPY"],
		["0", 0, "EUR"],
	])("%s is read", (text, amount, currency) => {
		expect(readTyped(text, "EUR")).toEqual({ amount, currency });
	});
	test("nothing is no target", () => {
		expect(readTyped("  ", "EUR")).toEqual({ amount: null, currency: "EUR" });
	});
	test.each([
		["many", /isn’t an amount such as/],
		["-5", /isn’t an amount|negative/],
		["12.345,6.7", /isn’t an amount/],
		["1,2.3,4", /isn’t an amount/],
		["100 ZZZ", /ZZZ isn’t a currency code/],
		["GBP", /has no amount/],
		["5.25 JPY", /too many decimals/],
		["99999999999999999999", /too large/],
	])("%s is refused in words", (text, words) => {
		expect(readTyped(text, "EUR")).toMatch(words);
	});
	test("reads back what it shows, in any currency", () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 9_000_000_000_000 }), fc.constantFrom("EUR", "GBP", "JPY", "KWD"), (amount, currency) => {
				// A three-place currency's fraction isn't typed here: whole units of it are.
				const whole = currency === "KWD" ? amount - (amount % 1000) : amount;
				expect(readTyped(typedOf(whole, currency, "EUR"), "EUR")).toEqual({ amount: whole, currency });
			}),
		);
	});
});

test("a block from a spreadsheet is rows by lines and cells by tabs, with or without a last line’s end", () => {
	expect(pastedCells("1\t2\r\n3\t4\r\n")).toEqual([
		["1", "2"],
		["3", "4"],
	]);
	expect(pastedCells("1\t\n\t4")).toEqual([
		["1", ""],
		["", "4"],
	]);
	expect(pastedCells("alone")).toEqual([["alone"]]);
});
