import ExcelJS from "exceljs";
import { expect, test } from "vitest";
import { packRows, unpackRows } from "./rowPack";
import { type TableCell, type TableColumn, tableCsv, tableXlsx } from "./table";

const COLUMNS: readonly TableColumn[] = [
	{ label: "Deal", kind: "text" },
	{ label: "Amount EUR", kind: "amount" },
	{ label: "Close date", kind: "day" },
	{ label: "Pushes", kind: "count" },
	{ label: "=Share", kind: "percent" },
];
const ROWS: readonly (readonly TableCell[])[] = [
	["Deck ovens", 1250.5, "2026-12-18", 2, 40],
	["=HYPERLINK(1)", null, null, 0, { formula: "SUM(D2:D3)", value: 2 }],
	["", -3, "2026-01-01", 1, 0],
];

test("a table as CSV: texts that would run are held, nothing is blank, a formula is what it comes to", () => {
	const text = new TextDecoder("utf-8", { ignoreBOM: true }).decode(tableCsv(COLUMNS, ROWS));
	expect(text).toBe("\uFEFFDeal,Amount EUR,Close date,Pushes,'=Share\nDeck ovens,1250.5,2026-12-18,2,40\n'=HYPERLINK(1),,,0,2\n,-3,2026-01-01,1,0\n");
});

test("the same as a workbook: numbers, days, texts and formulas as such, more tables behind", async () => {
	const bytes = await tableXlsx("All: of [them] now", COLUMNS, ROWS, [{ name: "Totals", columns: COLUMNS.slice(0, 2), rows: [["won", 7]] }]);
	const book = new ExcelJS.Workbook();
	await book.xlsx.load(Buffer.from(bytes) as never);
	expect(book.worksheets.map(({ name }) => name)).toEqual(["All  of  them  now", "Totals"]);
	const [sheet, totals] = book.worksheets as [ExcelJS.Worksheet, ExcelJS.Worksheet];
	expect(sheet.getRow(1).values).toEqual([undefined, "Deal", "Amount EUR", "Close date", "Pushes", "=Share"]);
	expect(sheet.getRow(1).font?.bold).toBe(true);
	expect(sheet.getRow(2).values).toEqual([undefined, "Deck ovens", 1250.5, new Date("2026-12-18T00:00:00Z"), 2, 40]);
	expect(sheet.getCell("A3").value).toBe("=HYPERLINK(1)");
	expect(sheet.getCell("E3").value).toMatchObject({ formula: "SUM(D2:D3)", result: 2 });
	expect([sheet.getCell("B3").value, sheet.getCell("C3").value]).toEqual([null, null]);
	expect(COLUMNS.map((_, i) => sheet.getColumn(i + 1).numFmt)).toEqual(["@", "#,##0.00", "yyyy-mm-dd", "0", '0"%"']);
	expect(COLUMNS.map((_, i) => sheet.getColumn(i + 1).width)).toEqual([24, 14, 14, 14, 14]);
	expect(totals.getRow(2).values).toEqual([undefined, "won", 7]);
	expect(sheet.views[0]).toMatchObject({ state: "frozen", ySplit: 1 });
});

test("rows go over as one text and are the same rows again, none too", () => {
	const rows = [
		{ id: "a", amount: 1, tags: ["x"] },
		{ id: "b", amount: null, tags: [] },
	];
	expect(unpackRows(JSON.parse(packRows(rows)))).toEqual(rows);
	expect(packRows([])).toBe('{"fields":[],"rows":[]}');
	expect(unpackRows(JSON.parse(packRows(rows, ({ id }) => JSON.stringify([id, 2, 3]))))).toEqual([
		{ id: "a", amount: 2, tags: 3 },
		{ id: "b", amount: 2, tags: 3 },
	]);
});
