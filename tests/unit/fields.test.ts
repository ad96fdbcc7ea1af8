import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { makeZone } from "@/core/time/zone";
import { instantText, readField, refused, writeField } from "@/formats/bundle/fields";
import type { Value } from "@/formats/bundle/model";
import { SPECS } from "@/formats/bundle/spec";
import { readCsv, writeCsv } from "@/formats/csv";

const fields = SPECS.flatMap((spec) => spec.fields.map((field) => ({ file: spec.file, field })));
const field = (file: string, name: string) => {
	const found = fields.find((f) => f.file === file && f.field.name === name);
	if (!found) throw new Error(`${file} has no ${name}`);
	return found.field;
};
const berlin = { zone: makeZone("Europe/Berlin"), currency: "EUR" };
const read = (file: string, name: string, cell: string, currency = "EUR") => {
	const value = readField(field(file, name), cell, { ...berlin, currency });
	return refused(value) ? `refused: ${value.reason}` : value;
};

describe("a field", () => {
	test("that is blank is nothing, or a reason where it is required", () => {
		expect(read("deal_versions.csv", "amount", " ")).toBeNull();
		expect(read("deals.csv", "tags", "")).toEqual([]);
		expect(read("questions.csv", "key", "")).toBe(false);
		expect(read("people.csv", "name", "")).toBe("refused: name is blank, and it is required");
	});
	test("of a list is split at bars, without blanks and repeats", () => {
		expect(read("deals.csv", "tags", "summer| energy ||summer")).toEqual(["summer", "energy"]);
	});
	test("that says yes or no may say so in several ways", () => {
		for (const yes of ["true", "TRUE", "yes", "1"]) expect(read("questions.csv", "key", yes)).toBe(true);
		for (const no of ["false", "No", "0"]) expect(read("questions.csv", "key", no)).toBe(false);
		expect(read("questions.csv", "key", "maybe")).toMatch(/^refused/);
	});
	test("with a number keeps it exactly, within its bounds", () => {
		expect(read("stages.csv", "probability", "0.10")).toBe("0.1");
		expect(read("stages.csv", "probability", "1.1")).toMatch(/between 0 and 1/);
		expect(read("questions.csv", "weight", "0")).toMatch(/^refused/);
		expect(read("questions.csv", "weight", "1000000")).toBe("1000000");
		expect(read("questions.csv", "due_stage_position", "2.5")).toBe("refused: this isn’t a whole number");
		expect(read("rates.csv", "rate", "1,16")).toMatch(/decimal point/);
	});
	test("with an amount minds the currency beside it", () => {
		expect(read("orders.csv", "amount", "10.5")).toBe(1050);
		expect(read("orders.csv", "amount", "10.5", "JPY")).toMatch(/JPY has 0 decimal places/);
		expect(read("orders.csv", "amount", "10.525", "KWD")).toBe(10_525);
	});
	test("with a text of a hundred thousand letters is taken, with more it isn’t", () => {
		expect(read("activities.csv", "body", "x".repeat(100_000))).toHaveLength(100_000);
		expect(read("activities.csv", "body", "x".repeat(100_001))).toMatch(/at most 100000/);
		expect(read("deals.csv", "id", "x".repeat(201))).toMatch(/at most 200/);
	});
	test("with a local time at a clock change still is one instant of that day", () => {
		expect(read("deals.csv", "created_at", "2026-03-29T02:30:00")).toBe("2026-03-29T01:30:00Z");
		expect(read("deals.csv", "created_at", "2026-10-25")).toBe("2026-10-24T22:00:00Z");
		expect(read("deals.csv", "created_at", "2026-07-01T12:00:00-05:30")).toBe("2026-07-01T17:30:00Z");
		expect(read("deals.csv", "created_at", "yesterday")).toMatch(/written like 2026-11-24T09:30:00Z/);
	});
	test("is written as it is read, whatever it holds", () => {
		const text = fc.string({ unit: "grapheme", minLength: 1, maxLength: 60 }).filter((t) => t.trim() !== "" && !t.includes("\0"));
		const cases: [string, string, fc.Arbitrary<Value>][] = [
			["activities.csv", "body", text],
			["deals.csv", "id", text.map((t) => t.trim())],
			[
				"deals.csv",
				"tags",
				fc.uniqueArray(
					text.map((t) => t.trim().replaceAll("|", "/")),
					{ minLength: 1, maxLength: 4 },
				),
			],
			["orders.csv", "amount", fc.integer({ min: -(10 ** 13), max: 10 ** 13 })],
			["deals.csv", "created_at", fc.integer({ min: 0, max: 4_000_000_000 }).map((s) => instantText(s * 1000))],
			["questions.csv", "key", fc.boolean()],
			["stages.csv", "kind", fc.constantFrom("open", "won", "lost")],
		];
		for (const [file, name, values] of cases) {
			fc.assert(
				fc.property(values, (value) => {
					const cell = writeField(field(file, name), value, "EUR");
					expect(readField(field(file, name), cell, berlin)).toEqual(value);
				}),
			);
		}
	});
});

describe("CSV", () => {
	test("gives back every cell it was given, awkward ones too", () => {
		const cell = fc.string({ unit: fc.constantFrom("a", '"', ",", ";", "\n", "\r\n", " ", "é", "ש", "🥐", "'", "="), maxLength: 12 });
		fc.assert(
			fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 10 }), (rows) => {
				const kept = rows.filter((row) => row.some((c) => c !== ""));
				const table = readCsv(new TextEncoder().encode(writeCsv(["a", "b", "c"], kept)));
				expect(table.header).toEqual(["a", "b", "c"]);
				expect(table.records.map((r) => r.cells)).toEqual(kept);
			}),
		);
	});
	test("knows its delimiter by the header", () => {
		for (const delimiter of [",", ";", "\t"]) {
			expect(readCsv(new TextEncoder().encode(`id${delimiter}name\n1${delimiter}x\n`)).records[0]?.cells).toEqual(["1", "x"]);
		}
	});
});

describe("the bundle’s description", () => {
	test("names only files above or the same one in references", () => {
		SPECS.forEach((spec, i) => {
			for (const f of spec.fields) if (f.refers) expect(SPECS.findIndex((other) => other.file === f.refers)).toBeLessThanOrEqual(i);
		});
	});
	test("has six needed files, and a key or a group for each", () => {
		expect(SPECS.filter((s) => s.required)).toHaveLength(5);
		for (const spec of SPECS) {
			const names = spec.fields.map((f) => f.name);
			expect(new Set(names).size).toBe(names.length);
			expect(spec.key.length > 0 || spec.group !== undefined).toBe(true);
			for (const name of spec.key) expect(names).toContain(name);
		}
	});
});
