import { describe, expect, test } from "vitest";
import { readCsv } from "../csv";
import { dayFromName, guessColumns, mappedTwice } from "./fields";
import { readWeekly, type WeeklyPlan } from "./read";
import { guessDates, guessDecimal, readDate, readMoney } from "./values";

const HEADER = ["Record ID", "Deal Name", "Company", "Sales Stage", "Value", "Exp. close", "Owner", "Colour"];
const table = (...lines: string[]) => readCsv(new TextEncoder().encode([HEADER.join(","), ...lines].join("\n")));
const columns = { ...guessColumns(HEADER, null), closeDate: "Exp. close" };
const plan: WeeklyPlan = { columns, dates: "dmy", decimal: ".", currency: "EUR", stages: { "1 - New": "Enquiry", Won: "Won" } };
const read = (lines: string[], change: Partial<WeeklyPlan> = {}) => readWeekly("w.csv", table(...lines), { ...plan, ...change });
const reasons = (lines: string[], change?: Partial<WeeklyPlan>) => read(lines, change).problems.map((p) => `${p.line} ${p.column}: ${p.reason}`);

describe("a guess at the columns", () => {
	test("goes by what the names mean, uses none twice, and leaves the rest open", () => {
		expect(guessColumns(HEADER, null)).toMatchObject({
			id: "Record ID",
			name: "Deal Name",
			account: "Company",
			stage: "Sales Stage",
			amount: "Value",
			owner: "Owner",
		});
		expect(guessColumns(["Close date (expected)", "Next step date", "Deal owner name"], null)).toMatchObject({
			closeDate: "Close date (expected)",
			nextStepDate: "Next step date",
			owner: "Deal owner name",
		});
		expect(guessColumns(["Opp. no.", "Next activity date", "Next activity", "No"], null)).toMatchObject({
			id: "Opp. no.",
			nextStep: "Next activity",
			nextStepDate: "Next activity date",
		});
		expect(new Set(Object.values(guessColumns(["name", "Name of company", "id"], null)).filter(Boolean)).size).toBe(3);
	});
	test("keeps to what was said before, also that a field has no column", () => {
		const said = guessColumns(HEADER, { amount: "Colour", account: null, stage: "gone" });
		expect(said).toMatchObject({ amount: "Colour", account: null, stage: "Sales Stage" });
	});
	test("tells a column that was taken for two fields", () => {
		expect(mappedTwice({ ...columns, created: "Exp. close" })).toEqual({ column: "Exp. close", fields: ["Close date", "Created"] });
		expect(mappedTwice(columns)).toBeNull();
	});
});

test("the day is taken from the name where the name is sure of it", () => {
	expect(
		[
			"deals-2026-11-16.csv",
			"20261116_deals.csv",
			"export 16.11.2026.csv",
			"16-11-2026.csv",
			"11-16-2026.csv",
			"03.04.2026.csv",
			"03-04-2026.csv",
			"deals.csv",
			"2026-02-30.csv",
		].map(dayFromName),
	).toEqual(["2026-11-16", "2026-11-16", "2026-11-16", "2026-11-16", "2026-11-16", "2026-04-03", null, null, null]);
});

test("dates are read in one order, which a date over twelve settles", () => {
	expect(guessDates(["2026-11-16", "2026-01-02"])).toEqual({ order: "ymd", sure: true });
	expect(guessDates(["03/04/2026", "16/11/2026"])).toEqual({ order: "dmy", sure: true });
	expect(guessDates(["03/04/2026", "11/16/2026"])).toEqual({ order: "mdy", sure: true });
	expect(guessDates(["03/04/2026", ""])).toEqual({ order: "dmy", sure: false });
	expect(guessDates(["soon"])).toBeNull();
	expect([readDate("16.11.26", "dmy"), readDate("2026-11-16 10:00", "ymd"), readDate("31/02/2026", "dmy")]).toEqual(["2026-11-16", "2026-11-16", null]);
});

test("amounts are read as people write them, or not at all", () => {
	expect(guessDecimal(["1.234,50", "12,00"])).toBe(",");
	expect(guessDecimal(["€1,234.50"])).toBe(".");
	expect(guessDecimal(["1.234.567"])).toBe(",");
	expect(["€ 1,234.50", "1234.5", "(1,000)", "-5", "1,23", "12.345", "abc", "1.2.3"].map((text) => readMoney(text, ".", "EUR"))).toEqual([
		123_450,
		123_450,
		-100_000,
		-500,
		null,
		null,
		null,
		null,
	]);
	expect(["1.234,50 EUR", "1'000", "7,5"].map((text) => readMoney(text, ",", "EUR"))).toEqual([123_450, 100_000, 750]);
	expect([readMoney("1000", ".", "JPY"), readMoney("1.5", ".", "JPY"), readMoney("1.234", ".", "KWD")]).toEqual([1000, null, 1234]);
});

describe("a weekly file", () => {
	test("is read row by row; a column that isn't there leaves its field unsaid", () => {
		const { rows, problems } = read(["D1,Ovens,Mill,1 - New,1200.50,05/12/2026,Rae,red", "D2,Mixers,,Won,,,,"]);
		expect(problems).toEqual([]);
		expect(rows).toEqual([
			{ line: 2, id: "D1", name: "Ovens", account: "Mill", stage: "Enquiry", amount: 120_050, currency: "EUR", closeDate: "2026-12-05", owner: "Rae" },
			{ line: 3, id: "D2", name: "Mixers", account: null, stage: "Won", amount: null, currency: null, closeDate: null, owner: null },
		]);
	});
	test("says line by line what is wrong, and where", () => {
		expect(
			reasons(["D1,A,B,1 - New,much,05/12/2026,Rae,", "D1,A,B,,1,13/13/2026,Rae,", "D2,A,B,1 - New,1,,,", "D2,A,B,1 - New,1,,,", ",A,B,1 - New,1,,,", "x,y"]),
		).toEqual([
			"2 Value: this isn't an amount with the chosen decimal mark",
			"3 Sales Stage: the stage is blank",
			"3 Exp. close: this isn't a date in the chosen order",
			"5 Record ID: this deal is in line 4 already; a file has a line a deal",
			"6 Record ID: this row doesn't say which deal it is",
			"7 null: this row has 2 fields where the header has 8",
		]);
	});
	test("asks which of our stages theirs are, with how many rows have them", () => {
		expect(read(["D1,A,B,Odd,1,,,", "D2,A,B,Odd,1,,,", "D3,A,B,Won,1,,,"])).toMatchObject({ unknownStages: { Odd: 2 }, rows: [{ id: "D3" }] });
	});
	test("is refused whole where a column is taken twice or a needed one is missing", () => {
		expect(reasons([], { columns: { ...columns, created: "Value" } })[0]).toBe(
			"1 Value: this column is taken for Amount and for Created; each column can be only one of them",
		);
		expect(reasons([], { columns: { ...columns, owner: null, source: "gone" } })).toEqual([
			"1 null: no column is taken for Rep; choose the one that holds it",
			"1 gone: the file has no such column; choose another one for Source",
		]);
		expect(reasons([])).toEqual(["1 null: the file has no rows under its header"]);
	});
	test("without numbers goes by account and name", () => {
		expect(read(["D1,Ovens,Mill,Won,1,,,", "D2,Ovens,,Won,1,,,"], { columns: { ...columns, id: null } }).rows.map((row) => row.id)).toEqual([
			"Mill / Ovens",
			"Ovens",
		]);
	});
});
