import ExcelJS from "exceljs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { makeZone } from "@/core/time/zone";
import { checkBundle } from "@/formats/bundle/check";
import { readBundle } from "@/formats/bundle/read";
import { UnpackFault, unzip } from "@/formats/bundle/unpack";
import { CsvFault } from "@/formats/csv";
import { readGrid } from "@/formats/grid";
import { DATE_ORDERS, guessDates, readDate } from "@/formats/weekly/dates";
import { guessColumns } from "@/formats/weekly/fields";
import { guessBelow, guessHeader, tableOf } from "@/formats/weekly/layout";
import { DECIMAL_MARKS, guessDecimal, readMoney } from "@/formats/weekly/money";
import { readWeekly } from "@/formats/weekly/read";
import { NOTHING_KNOWN, SMALL, small } from "../kit/bundle";
import { zipFiles } from "../kit/zip";

// Ten thousand spoilt files a format, the same ones every time: each is read, or refused in words; nothing else is thrown.
/** The same cases each time; more of them, and others, where that is asked for. */
const RUNS = { numRuns: Number(process.env.FUZZ_RUNS ?? 600), seed: Number(process.env.FUZZ_SEED ?? 20_261_124) };
const zone = makeZone("Europe/Berlin");
const encoder = new TextEncoder();

const AWKWARD = [
	"",
	" ",
	",",
	";",
	"\t",
	'"',
	'""',
	"\n",
	"\r\n",
	"\0",
	"\ufeff",
	"'",
	"=1+1",
	"1.200",
	"1,200.50",
	"(500)",
	"9e999",
	"-0",
	"NaN",
	"2026-02-30",
	"0001-01-01",
	"46350",
	"24-Nov-26",
	"constructor",
	"__proto__",
	"🥐",
	"\ud83e",
	"x".repeat(300),
	"sep=;\n",
	"Total",
	"10 %",
	"1.2M",
];
const awkward = fc.oneof(fc.constantFrom(...AWKWARD), fc.string({ maxLength: 8, unit: "binary" }), fc.integer().map(String));
/** Cuts, puts in and repeats, in the middle of something sound. */
const spoil = (text: string) =>
	fc
		.array(fc.tuple(fc.nat(text.length), fc.nat(12), awkward), { minLength: 1, maxLength: 4 })
		.map((changes) => changes.reduce((now, [at, length, put]) => now.slice(0, at) + put + now.slice(at + length), text));
const spoilBytes = (bytes: Uint8Array) =>
	fc.array(fc.tuple(fc.nat(bytes.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }).map((changes) => {
		const next = bytes.slice();
		for (const [at, byte] of changes) next[at] = byte;
		return next;
	});

const WEEKLY =
	"Pipeline;;;;;;\nRef;Opportunity;Company;Phase;Value;Closing date;Owner\n7;Deck ovens;Millrace;Survey;1.200,50;18.12.2026;Rae Penn\n8;Mixers;Oat Inn;Enquiry;500;10.12.2026;sol@firm.example\nTotal;;;;1.700,50;;\n";

async function readAsWeekly(bytes: Uint8Array): Promise<void> {
	const grid = await readGrid(bytes);
	const header = guessHeader(grid);
	const rows = grid.rows.filter((row) => row.line > header);
	const table = tableOf(grid, header, new Set(guessBelow(rows, 7)));
	const columns = guessColumns(table.header, null);
	const plan = {
		columns,
		dates: "dmy" as const,
		decimal: "," as const,
		currency: "EUR",
		stages: { Survey: "Survey" },
		covers: "",
		sheet: null,
		header,
		leaveBelow: true,
		people: {},
		scale: 0 as const,
		encoding: null,
		goodOnly: false,
		lines: null,
		adds: false,
	};
	const { rows: read, problems } = await readWeekly("w.csv", table, plan, zone);
	// Whatever was read is something that can be kept.
	for (const row of read) {
		expect(row.amount === null || Number.isSafeInteger(row.amount)).toBe(true);
		expect(row.closeDate === null || /^(19|2[012])\d\d-\d\d-\d\d$/.test(row.closeDate)).toBe(true);
	}
	for (const problem of problems) expect(problem.reason.length).toBeGreaterThan(5);
}

/** Read, or refused by a fault with words. */
async function orRefused(work: () => Promise<unknown>, fault: new (...given: never[]) => Error): Promise<void> {
	try {
		await work();
	} catch (error) {
		if (!(error instanceof fault)) throw error;
		expect(error.message.length).toBeGreaterThan(5);
	}
}

describe("spoilt files are read or refused in words", () => {
	test("weekly exports as text", () =>
		fc.assert(
			fc.asyncProperty(spoil(WEEKLY), (text) => orRefused(() => readAsWeekly(encoder.encode(text)), CsvFault)),
			RUNS,
		));
	test("bytes that are hardly text", () =>
		fc.assert(
			fc.asyncProperty(fc.oneof(fc.uint8Array({ maxLength: 200 }), spoilBytes(encoder.encode(WEEKLY))), (bytes) =>
				orRefused(() => readAsWeekly(bytes), CsvFault),
			),
			RUNS,
		));
	test("workbooks", async () => {
		const book = new ExcelJS.Workbook();
		const sheet = book.addWorksheet("Pipeline");
		for (const line of WEEKLY.split("\n")) sheet.addRow(line.split(";"));
		const bytes = new Uint8Array(await book.xlsx.writeBuffer());
		await fc.assert(
			fc.asyncProperty(spoilBytes(bytes), (spoilt) => orRefused(() => readAsWeekly(spoilt), CsvFault)),
			RUNS,
		);
	}, 300_000);
	test("files of a bundle", () => {
		const files = Object.keys(SMALL);
		const one = fc.constantFrom(...files).chain((name) => spoil((SMALL[name] ?? []).join("\n")).map((text) => [name, text] as const));
		fc.assert(
			fc.property(one, ([name, text]) => {
				const read = readBundle(small({ [name]: text }), { timeZone: "Europe/Berlin", baseCurrency: "EUR" });
				const checked = checkBundle(read.bundle, NOTHING_KNOWN);
				for (const problem of [...read.problems, ...checked.problems]) expect(problem.reason.length).toBeGreaterThan(5);
			}),
			RUNS,
		);
	}, 300_000);
	test("zips", () => {
		const zip = zipFiles(new Map(Object.entries(SMALL).map(([name, lines]) => [name, encoder.encode(lines.join("\n"))])));
		return fc.assert(
			fc.asyncProperty(spoilBytes(zip), (bytes) => orRefused(() => unzip(bytes), UnpackFault)),
			RUNS,
		);
	}, 300_000);
	test("amounts and dates one by one", () => {
		fc.assert(
			fc.property(awkward, awkward, (a, b) => {
				for (const mark of DECIMAL_MARKS) {
					const read = readMoney(`${a}${b}`, mark, "EUR");
					expect(typeof read === "string" || Number.isSafeInteger(read)).toBe(true);
				}
				for (const order of DATE_ORDERS) expect(readDate(`${a}${b}`, order, zone) ?? "1900-01-01").toMatch(/^\d{4}-\d\d-\d\d$/);
				guessDates([a, b], zone);
				guessDecimal([
					{ text: a, currency: "EUR", before: null },
					{ text: b, currency: "JPY", before: 5 },
				]);
			}),
			RUNS,
		);
	});
});
