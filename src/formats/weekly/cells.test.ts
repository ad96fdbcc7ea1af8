import { expect, test } from "vitest";
import { makeZone } from "../../core/time/zone";
import { errorIn, meant } from "./cells";
import { guessDates, readDate } from "./dates";
import { guessColumns } from "./fields";
import { guessBelow, guessHeader, labels, tableOf } from "./layout";
import { MONEY_FAULTS, readMoney } from "./money";

const BERLIN = makeZone("Europe/Berlin");
const grid = (...rows: string[][]) => ({ rows: rows.map((cells, i) => ({ line: i + 1, cells })), sheets: [], sheet: null, written: "UTF-8", open: [] });

test("what a cell shows where it can’t be worked out is named, spaces around it aside", () => {
	expect([" #DIV/0! ", "#nv", "#REF!x", "x#N/A"].map(errorIn)).toEqual(["#DIV/0!", "#nv", null, null]);
	expect(['="0042"', ' ="0042" ', 'x="0042"', '="0042"x', '="two\nlines"'].map(meant)).toEqual(["0042", "0042", 'x="0042"', '="0042"x', "two\nlines"]);
});

test("times that no clock shows make no date", () => {
	const read = (text: string) => readDate(text, "ymd", BERLIN);
	expect(["2026-11-24 23:59:59", "2026-11-24 23:59:60", "2026-11-24 23:60:00", "2026-11-24 24:00", "2026-11-24 25:00"].map(read)).toEqual([
		"2026-11-24",
		null,
		null,
		"2026-11-24",
		null,
	]);
	expect(["2026-11-24T23:30:00Z", "2026-11-24T23:30:59-01:00", "2026-11-25T00:30:00+02:00"].map(read)).toEqual(["2026-11-25", "2026-11-25", "2026-11-24"]);
});

test("a year has two or four figures, a month’s name at least three letters", () => {
	for (const [text, day] of [
		["24.11.26", "2026-11-24"],
		["24.11.2026", "2026-11-24"],
		["24.11.026", null],
		["24.11.6", null],
		["24 Nov 2026", "2026-11-24"],
		["24th Nov 2026", "2026-11-24"],
		["Nov 24 2026", "2026-11-24"],
		["24 No 2026", null],
		["Tue 24 Nov 2026", "2026-11-24"],
		["24xx Nov 2026", null],
		["24 Nov 20x6", null],
		["x Nov y", null],
		[" 24 . 11 . 2026 ", "2026-11-24"],
	] as const)
		expect([text, readDate(text, "dmy", BERLIN)]).toEqual([text, day]);
	expect(guessDates([" 24.11.2026 ", "24.11.2026", "  "], BERLIN)).toEqual(guessDates(["24.11.2026"], BERLIN));
});

test("an amount is read, or it is said why not", () => {
	for (const [text, mark, amount] of [
		["12,34,567", ".", 123456700],
		["12,34,56", ".", "groups"],
		["1,23,4567", ".", "groups"],
		["1200.", ".", 120000],
		["1200..", ".", 120000],
		["12%", ".", "a percentage"],
		["12.5E+2", ".", 125000],
		["1.2E+06", ".", 120000000],
		["-12,5e2", ",", -125000],
		["999999999999999999", ".", "too large"],
		["(500-)", ".", "not an amount"],
		["1.2 xyz", ".", "unknown suffix"],
	] as const)
		expect([text, readMoney(text, mark, "EUR")]).toEqual([text, amount]);
	expect(MONEY_FAULTS["a percentage"]).toBe("this is a percentage, not an amount");
	expect(MONEY_FAULTS["too large"]).toBe("this amount is too large");
});

test("the head is the first line that names three fields, else the first", () => {
	const head = ["Deal", "Stage", "Amount"];
	expect(guessHeader(grid(["Export of Monday"], ["Deal", "Stage"], head, ["Ovens", "Offer", "5"]))).toBe(3);
	expect(guessHeader(grid(["a"], ["b"]))).toBe(1);
	expect(guessHeader(grid())).toBe(1);
	expect(labels([" Amount ", "Amount", "Net  amount", ""])).toEqual(["Amount", "Amount (2)", "Net amount", ""]);
});

test("lines below the table are notes that fill a cell of four, and totals", () => {
	const rows = (...lines: string[][]) => grid(...lines).rows;
	const deal = ["d1", "Ovens", "Offer", "500"];
	expect(guessBelow(rows(deal, deal, ["Exported by ops", "", "", ""]), 4)).toEqual([3]);
	expect(guessBelow(rows(deal.slice(1), deal.slice(1), ["Exported by ops", "", ""]), 3)).toEqual([]);
	expect(guessBelow(rows(deal, deal, [" Total ", "", "", "1000"]), 4)).toEqual([3]);
	expect(guessBelow(rows(deal, deal, ["Total", "x", "y", "1000"]), 4)).toEqual([]);
});

test("rows end where the head does: what is blank beyond is nothing, what is missing is blank", () => {
	const { header, records } = tableOf(grid(["Deal", "Stage", ""], ["Ovens", "Offer", "", ""], ["Mixers"], ["", ""], ["Pans", "Offer", "x"]), 1, new Set());
	expect(header).toEqual(["Deal", "Stage"]);
	expect(records.map(({ cells }) => cells)).toEqual([
		["Ovens", "Offer"],
		["Mixers", ""],
		["", ""],
		["Pans", "Offer", "x"],
	]);
	expect(tableOf(grid(), 1, new Set())).toEqual({ header: [], records: [] });
});

test("a column is for one field, and short names count only as they are", () => {
	expect(guessColumns(["Deal", "Stage"], { name: "Deal", id: "Deal" }).stage).toBe("Stage");
	const twice = guessColumns(["Deal"], { name: "Deal", id: "Deal" });
	expect([twice.name, twice.id].filter((column) => column === "Deal")).toHaveLength(1);
});
