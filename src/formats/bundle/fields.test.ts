import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { makeZone } from "../../core/time/zone";
import type { FieldSpec, FieldType } from "./field";
import { readField, refused, writeField } from "./fields";

const context = { zone: makeZone("Europe/Berlin"), currency: "EUR" } as Parameters<typeof readField>[2];
const spec = (type: FieldType | FieldType["is"], more: Partial<FieldSpec> = {}): FieldSpec => ({
	name: "it",
	type: (typeof type === "string" ? { is: type } : type) as FieldType,
	needed: false,
	blankAlone: false,
	refers: null,
	extra: false,
	standard: null,
	...more,
});
const read = (type: Parameters<typeof spec>[0], cell: string, currency = "EUR") => {
	const value = readField(spec(type), cell, { ...context, currency });
	return refused(value) ? `no: ${value.reason}` : value;
};
const share: FieldType = { is: "decimal", least: 0, most: 1 };
const decimal: FieldType = { is: "decimal", least: -10, most: 10_000 };
const whole: FieldType = { is: "whole", least: -5, most: 1000 };
const side: FieldType = { is: "choice", of: ["ours", "best_case"], words: { upside: "best_case" } };

describe("a blank cell", () => {
	test("is nothing, an empty list or no, or what stands where nothing was said", () => {
		for (const is of ["text", "id", "day", "instant", "json", "currency"] as const) expect(read(is, " \t")).toBeNull();
		expect([read("ids", ""), read("words", " "), read("yes", "")]).toEqual([[], [], false]);
		expect(readField(spec("text", { standard: "usual" }), " ", context)).toBe("usual");
		expect(readField(spec("text", { needed: true }), " ", context)).toEqual({ reason: "it is blank, and it is required" });
		// A value that is there counts before what would stand for a blank.
		expect(readField(spec("text", { standard: "usual" }), "high", context)).toBe("high");
	});
});

describe("a cell is read", () => {
	test.each<[FieldType | FieldType["is"], string, unknown]>([
		["id", "  d1  ", "d1"],
		["text", "  with its spaces ", "  with its spaces "],
		["ids", " b | a |b||", ["b", "a"]],
		["words", "one", ["one"]],
		["currency", " USD ", "USD"],
		["currency", "EURO", "no: EURO isn’t a currency code of ISO 4217, such as EUR"],
		["json", '{ "a": [1] }', '{"a":[1]}'],
		["json", "{a}", "no: this isn’t JSON"],
		["yes", "Y", true],
		["yes", "1", true],
		["yes", "no", false],
		["yes", "False", false],
		["yes", "nope", "no: write true or false here"],
		["yes", "yesterday", "no: write true or false here"],
		["yes", "10", "no: write true or false here"],
		[whole, "+12", 12],
		[whole, "-5", -5],
		[whole, "-6", "no: this must lie between -5 and 1000"],
		[whole, "1000", 1000],
		[whole, "1001", "no: this must lie between -5 and 1000"],
		[whole, "12 pieces", "no: this isn’t a whole number"],
		[whole, "1.5", "no: this isn’t a whole number"],
		[whole, "1e2", "no: this isn’t a whole number"],
		[whole, "90071992547409931", "no: this isn’t a whole number"],
		[decimal, "1.50", "1.5"],
		[decimal, ".5", "0.5"],
		[decimal, "-.25", "-0.25"],
		[decimal, "7", "7"],
		[decimal, "-0.05", "-0.05"],
		[decimal, "1,5", "no: this isn’t a number with a decimal point"],
		[decimal, "50%", "no: this isn’t a number with a decimal point"],
		[decimal, "-10.01", "no: this must lie between -10 and 10000"],
		[share, "10%", "0.1"],
		[share, "12.5 %", "0.125"],
		[share, "100%", "1"],
		[share, "101%", "no: this must lie between 0 and 1"],
		[side, "ours", "ours"],
		[side, "Best Case", "best_case"],
		[side, "best-case", "best_case"],
		[side, "UPSIDE", "best_case"],
		[side, "toString", "no: this must be one of ours, best_case"],
		["day", "2026-02-28", "2026-02-28"],
		["day", "2026-02-29", "no: there is no such day"],
		["day", "28.2.2026", "no: a day is written YYYY-MM-DD"],
		["day", "2026-03-01T23:30:00Z", "2026-03-02"],
		["day", "2026-03-01T23:30:00-02:00", "2026-03-02"],
		["day", "2026-03-01T23:30:00", "2026-03-01"],
		["day", "2026-03-01 08:00", "2026-03-01"],
		["day", "2026-03-01Tnoon", "no: a day is written YYYY-MM-DD"],
		["instant", "2026-11-24T09:30:00Z", "2026-11-24T09:30:00Z"],
		["instant", "2026-11-24t09:30z", "2026-11-24T09:30:00Z"],
		["instant", "2026-11-24T09:30:00+05:30", "2026-11-24T04:00:00Z"],
		["instant", "2026-11-24T09:30:00-0330", "2026-11-24T13:00:00Z"],
		["instant", "2026-11-24T09:41", "2026-11-24T08:41:00Z"],
		["instant", "2026-07-24", "2026-07-23T22:00:00Z"],
		["instant", "2026-11-24T09:30:05.5Z", "2026-11-24T09:30:05.500Z"],
		["instant", "2026-11-24T09:30:05.123456Z", "2026-11-24T09:30:05.123Z"],
		["instant", "2026-02-30T09:30:00Z", "no: there is no such day"],
		["instant", "yesterday", "no: an instant is written like 2026-11-24T09:30:00Z"],
		["instant", "2026-11-24T24:00:00Z", "no: there is no such time of day"],
		["instant", "2026-11-24T23:60:00Z", "no: there is no such time of day"],
		["instant", "2026-11-24T23:59:60Z", "no: there is no such time of day"],
	])("%j %j", (type, cell, value) => {
		expect(read(type, cell)).toEqual(value);
	});
	test("amounts in minor units of their currency, up to what a company can have", () => {
		expect([read("amount", "12.5"), read("amount", "12", "JPY"), read("amount", "1.234", "KWD")]).toEqual([1250, 12, 1234]);
		expect(read("amount", "12.5", "JPY")).toBe("no: JPY has 0 decimal places, and this has more");
		expect(read("amount", "1.234")).toBe("no: EUR has 2 decimal places, and this has more");
		expect(read("amount", "1,000")).toMatch(/^no: an amount is written in digits/);
		expect(read("amount", "100000000000")).toBe(10 ** 13);
		expect(read("amount", "100000000000.01")).toMatch(/^no: this amount is too large/);
		expect(read("amount", "-100000000000.01")).toMatch(/^no: this amount is too large/);
		expect(read("amount", "1", "XXQ")).toBe("no: XXQ isn’t a currency code of ISO 4217");
	});
	test("of any length that fits, and no longer", () => {
		expect(read("text", "a".repeat(100_000))).toHaveLength(100_000);
		expect(read("text", "a".repeat(100_001))).toBe("no: this text has 100001 letters; at most 100000 fit");
		expect(read("id", "a".repeat(200))).toHaveLength(200);
		expect(read("id", "a".repeat(201))).toBe("no: an id has at most 200 letters");
		expect(read("json", `"${"a".repeat(999_998)}"`)).toHaveLength(1_000_000);
		expect(read("json", `"${"a".repeat(999_999)}"`)).toBe("no: this has 1000001 letters; at most 1000000 fit");
	});
});

describe("what is written is read again as it was", () => {
	const text = fc.string({ unit: "grapheme", minLength: 1, maxLength: 30 }).filter((one) => one.trim() !== "");
	test.each<[FieldType | FieldType["is"], fc.Arbitrary<unknown>]>([
		["text", text],
		["amount", fc.integer({ min: -(10 ** 13), max: 10 ** 13 })],
		[whole, fc.integer({ min: -5, max: 1000 })],
		["yes", fc.boolean()],
		["day", fc.constantFrom("2026-01-01", "2026-12-31")],
		["instant", fc.constantFrom("2026-11-24T09:30:00Z", "2026-11-24T09:30:05.500Z")],
		["words", fc.uniqueArray(fc.constantFrom("overdue", "=1+1", "-x", "no-next-step"))],
		[side, fc.constantFrom("ours", "best_case")],
		["text", fc.constant(null)],
	])("%j", (type, values) => {
		fc.assert(
			fc.property(values, (value) => {
				expect(readField(spec(type), writeField(spec(type), value as never, "EUR"), context)).toEqual(value);
			}),
		);
	});
	test("what stands where nothing was said is written as a blank", () => {
		expect(writeField(spec("text", { standard: "usual" }), "usual", "EUR")).toBe("");
		expect(writeField(spec("yes", { standard: false }), false, "EUR")).toBe("");
		expect(writeField(spec("yes", { standard: false }), true, "EUR")).toBe("true");
	});
});
