import ExcelJS from "exceljs";
import { expect, test } from "vitest";
import { causesOf } from "./causes";
import { CsvFault } from "./csv";
import { readGrid } from "./grid";
import { guessBelow, guessHeader, labels, tableOf } from "./weekly/layout";

const utf8 = (text: string) => new TextEncoder().encode(text);
const cells = async (bytes: Uint8Array) => (await readGrid(bytes)).rows.map((row) => row.cells);
const LINES = "Deal;Wert\nMühle;1.200\n";

test("a table is read by its content: UTF-8, UTF-16, Windows-1252, with or without a line that names the separator", async () => {
	const expected = [
		["Deal", "Wert"],
		["Mühle", "1.200"],
	];
	const wide = (text: string, little: boolean) => {
		const bytes = new Uint8Array(text.length * 2);
		for (let i = 0; i < text.length; i++) new DataView(bytes.buffer).setUint16(2 * i, text.charCodeAt(i), little);
		return bytes;
	};
	const windows = Uint8Array.from(LINES, (letter) => letter.charCodeAt(0));
	const forms = [
		utf8(LINES),
		utf8(`\uFEFF${LINES}`),
		wide(`\uFEFF${LINES}`, true),
		wide(`\uFEFF${LINES}`, false),
		wide(LINES, true),
		windows,
		utf8(`sep=;\r\n${LINES}`),
	];
	for (const bytes of forms) expect(await cells(bytes)).toEqual(expected);
	expect((await readGrid(windows)).written).toBe("Windows-1252");
	expect(await cells(utf8(`sep=|\n${LINES.replaceAll(";", "|")}`))).toEqual(expected);
	expect((await readGrid(utf8("sep=,\na,b\n1,2"))).rows[1]?.line).toBe(3);
});

test("a workbook is read sheet by sheet: days are days, numbers keep their point, formulas what they come to", async () => {
	const book = new ExcelJS.Workbook();
	book.addWorksheet("Cover");
	const sheet = book.addWorksheet("Pipeline");
	sheet.addRow(["Deal", "Amount", "Close", "Sum"]);
	sheet.addRow(["Ovens", 1.234, new Date("2026-11-24T00:00:00Z"), { formula: "B2*2", result: 2.468 }]);
	sheet.addRow(["Mixers", 1200, null, null]);
	const bytes = new Uint8Array(await book.xlsx.writeBuffer());
	const grid = await readGrid(bytes);
	expect([grid.sheets, grid.sheet]).toEqual([["Cover", "Pipeline"], "Pipeline"]);
	expect(grid.rows.map((row) => row.cells)).toEqual([
		["Deal", "Amount", "Close", "Sum"],
		["Ovens", "1.2340", "2026-11-24", "2.4680"],
		["Mixers", "1200", "", ""],
	]);
	expect((await readGrid(bytes, "Cover")).rows).toEqual([]);
});

test("what is no table is refused in words", async () => {
	const refusal = async (bytes: Uint8Array) =>
		readGrid(bytes).then(
			() => "taken",
			(error) => (error instanceof CsvFault ? error.message : String(error)),
		);
	expect(await refusal(utf8(""))).toMatch(/empty/);
	expect(await refusal(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1]))).toMatch(/save it as .xlsx or CSV/);
	expect(await refusal(new Uint8Array([0x50, 0x4b, 3, 4, 9, 9]))).toMatch(/can’t be opened/);
	expect(await refusal(Uint8Array.from({ length: 900 }, (_, i) => i % 7))).toMatch(/binary data/);
	expect(await refusal(utf8(`a,b\n${",".repeat(600)}\n`))).toMatch(/601 columns; at most 500/);
	expect(await refusal(utf8(`a\n${"x\n".repeat(100_001)}`))).toMatch(/at most 100000/);
});

test("titles above the header and totals below the table are found, and a column’s name that is there twice", async () => {
	const grid = await readGrid(
		utf8(
			[
				"Pipeline of the North;;;;",
				"as of 24 Nov;;;;",
				"Deal;Stage;Amount;Amount;Owner",
				"Ovens;Survey;5;6;Rae",
				"Total;;5;6;",
				"Made by the sales office;;;;",
			].join("\n"),
		),
	);
	expect(guessHeader(grid)).toBe(3);
	expect(labels(["Amount", "Stage", " Amount ", "", ""])).toEqual(["Amount", "Stage", "Amount (2)", "", ""]);
	const below = guessBelow(grid.rows.slice(3), 5);
	expect(below).toEqual([5, 6]);
	expect(tableOf(grid, 3, new Set(below))).toEqual({
		header: ["Deal", "Stage", "Amount", "Amount (2)", "Owner"],
		records: [{ line: 4, cells: ["Ovens", "Survey", "5", "6", "Rae"] }],
	});
	// A deal that is called Total Bakery is a deal.
	expect(guessBelow((await readGrid(utf8("Deal;Stage;Amount;Owner\nA;S;1;R\nTotal Bakery;Survey;5;Rae"))).rows.slice(1), 4)).toEqual([]);
});

test("one cause is told once, with its rows and what rests on them; the one with the most first", () => {
	const problem = (file: string, line: number, reason: string, restsOn?: string) => ({
		file,
		line,
		column: "c",
		value: `v${line}`,
		reason,
		...(restsOn ? { restsOn } : {}),
	});
	const causes = causesOf([
		problem("deals.csv", 9, "odd"),
		problem("deals.csv", 8, "odd"),
		problem("people.csv", 2, "role isn’t one"),
		problem("deals.csv", 5, "its owner has a problem", "people.csv 2"),
		problem("versions.csv", 7, "its deal has a problem", "deals.csv 5"),
		problem("versions.csv", 8, "its deal has a problem", "deals.csv 9"),
	]);
	expect(causes.map(({ file, reason, count, lines, rests }) => [file, reason, count, lines, rests])).toEqual([
		["people.csv", "role isn’t one", 1, [2], 2],
		["deals.csv", "odd", 2, [9, 8], 1],
	]);
});

test("lines that share a number in another file, and problems of no line, don’t carry one another’s causes", () => {
	const of = (file: string, line: number | null, reason: string, restsOn?: string) => ({
		file,
		line,
		column: null,
		value: null,
		reason,
		...(restsOn ? { restsOn } : {}),
	});
	const causes = causesOf([
		of("settings.json", null, "zone"),
		of("deals.csv", null, "missing"),
		of("people.csv", 2, "role"),
		of("deals.csv", 2, "stage"),
		of("deals.csv", 2, "date"),
		of("versions.csv", 3, "its deal", "deals.csv 2"),
		of("versions.csv", 3, "its owner", "people.csv 2"),
		of("answers.csv", 4, "its deal", "deals.csv 9"),
		of("notes.csv", 5, "its deal", "deals.csv null"),
	]);
	// A row that rests on two counts once, with the first; one that rests on nothing known with none.
	expect(causes.map(({ reason, rests, lines }) => [reason, rests, lines])).toEqual([
		["stage", 1, [2]],
		["zone", 0, []],
		["missing", 0, []],
		["role", 0, [2]],
		["date", 0, [2]],
	]);
	const many = causesOf(Array.from({ length: 9 }, (_, i) => ({ file: "a.csv", line: i + 2, column: "c", value: i % 2 ? "" : `v${i}`, reason: "odd" })));
	expect(many).toEqual([{ file: "a.csv", column: "c", reason: "odd", count: 9, lines: [2, 3, 4, 5, 6], values: ["v0", "v2", "v4"], rests: 0 }]);
});

test("of a workbook the hidden sheets that only programs show are left out, and so are empty rows", async () => {
	const book = new ExcelJS.Workbook();
	book.addWorksheet("Keys", { state: "veryHidden" }).addRows([["a"], ["b"]]);
	book.addWorksheet("Old", { state: "hidden" }).addRow(["only a head"]);
	const sheet = book.addWorksheet("Pipeline");
	sheet.addRow(["Deal", "Amount", "Sum", "Site"]);
	sheet.getRow(4).values = ["Ovens", true, { error: "#DIV/0!" } as never, { text: "Site", hyperlink: "https://example.test" }];
	sheet.getRow(6).values = [{ richText: [{ text: "Mix" }, { text: "ers" }] }, 0.5, { formula: "1/0", result: { error: "#N/A" } } as never, undefined];
	const grid = await readGrid(new Uint8Array(await book.xlsx.writeBuffer()));
	expect(grid).toEqual({
		sheets: ["Old", "Pipeline"],
		sheet: "Pipeline",
		written: "workbook",
		open: [],
		rows: [
			{ line: 1, cells: ["Deal", "Amount", "Sum", "Site"] },
			{ line: 4, cells: ["Ovens", "true", "#DIV/0!", "Site"] },
			{ line: 6, cells: ["Mixers", "0.5", "#N/A", ""] },
		],
	});
});

test("what only begins like a workbook is text, and the most rows are allowed", async () => {
	expect(await cells(utf8("PK,x\n1,2"))).toEqual([
		["PK", "x"],
		["1", "2"],
	]);
	expect((await readGrid(utf8("x\n".repeat(100_000)))).rows).toHaveLength(100_000);
});

test("quotes that don’t match are refused with their line, and digits kept as text stay so", async () => {
	await expect(readGrid(utf8('a,b\n1,2\n3,"x"y"\n'))).rejects.toMatchObject({ line: 3 });
	await expect(readGrid(utf8('sep=,\na,b\n3,"x"y"\n'))).rejects.toMatchObject({ line: 3 });
	expect(await cells(utf8('a,b\n="0042","say =""1"", twice"\n="x",="7"'))).toEqual([
		["a", "b"],
		["0042", 'say ="1", twice'],
		["x", "7"],
	]);
});
