import { describe, expect, test } from "vitest";
import { makeZone } from "../../core/time/zone";
import { readCsv } from "../csv";
import { guessDates, readDate } from "./dates";
import { dayFromName, guessColumns, mappedTwice } from "./fields";
import { guessDecimal, readMoney } from "./money";
import type { WeeklyPlan } from "./plan";
import { readWeekly } from "./read";

const zone = makeZone("Europe/Berlin");

const HEADER = ["Record ID", "Deal Name", "Company", "Sales Stage", "Value", "Exp. close", "Owner", "Colour"];
const table = (...lines: string[]) => readCsv(new TextEncoder().encode([HEADER.join(","), ...lines].join("\n")));
const columns = { ...guessColumns(HEADER, null), closeDate: "Exp. close" };
const plan: WeeklyPlan = {
	columns,
	dates: "dmy",
	decimal: ".",
	currency: "EUR",
	stages: { "1 - New": "Enquiry", Won: "Won" },
	covers: "",
	sheet: null,
	header: 1,
	leaveBelow: true,
	people: {},
	scale: 0,
	encoding: null,
	goodOnly: false,
	lines: null,
	adds: false,
};
const read = (lines: string[], change: Partial<WeeklyPlan> = {}) => readWeekly("w.csv", table(...lines), { ...plan, ...change }, zone);
const reasons = async (lines: string[], change?: Partial<WeeklyPlan>) => (await read(lines, change)).problems.map((p) => `${p.line} ${p.column}: ${p.reason}`);

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

test("who looks after an account isn’t the rep, and names are known in four languages", () => {
	const guess = (...header: string[]) => Object.fromEntries(Object.entries(guessColumns(header, null)).filter(([, column]) => column !== null));
	expect(guess("Account manager", "Deal owner", "Account name")).toEqual({ owner: "Deal owner", account: "Account name" });
	expect(guess("Account manager", "Account owner")).toEqual({});
	expect(guess("Nr.", "Bezeichnung", "Kunde", "Verkaufsphase", "Betrag", "Währung", "Abschlussdatum", "Verantwortlich", "Nächster Schritt")).toEqual({
		id: "Nr.",
		name: "Bezeichnung",
		account: "Kunde",
		stage: "Verkaufsphase",
		amount: "Betrag",
		currency: "Währung",
		closeDate: "Abschlussdatum",
		owner: "Verantwortlich",
		nextStep: "Nächster Schritt",
	});
	expect(guess("Affaire", "Société", "Étape", "Montant", "Date de clôture", "Commercial")).toMatchObject({
		name: "Affaire",
		account: "Société",
		stage: "Étape",
		amount: "Montant",
		closeDate: "Date de clôture",
		owner: "Commercial",
	});
	expect(guess("Oportunidad", "Empresa", "Etapa", "Importe", "Fecha de cierre", "Vendedor")).toMatchObject({
		name: "Oportunidad",
		account: "Empresa",
		stage: "Etapa",
		amount: "Importe",
		closeDate: "Fecha de cierre",
		owner: "Vendedor",
	});
	expect(guess("Amount", "Amount currency", "Weighted amount")).toEqual({ amount: "Amount", currency: "Amount currency" });
});

describe("dates", () => {
	test("are read in one order, which a date over twelve settles", () => {
		const guess = (...values: string[]) => {
			const found = guessDates(values, zone);
			return found && { order: found.order, sure: found.sure };
		};
		expect(guess("2026-11-16", "2026-01-02")).toEqual({ order: "ymd", sure: true });
		expect(guess("03/04/2026", "16/11/2026")).toEqual({ order: "dmy", sure: true });
		expect(guess("03/04/2026", "11/16/2026")).toEqual({ order: "mdy", sure: true });
		expect(guess("03/04/2026", "")).toEqual({ order: "dmy", sure: false });
		// A day that is also the month is the same either way.
		expect(guess("04/04/2026")).toEqual({ order: "dmy", sure: true });
		expect(guess("24-Nov-26", "3-Mar-27")).toEqual({ order: "ymd", sure: true });
		expect(guess("46350", "46351")).toEqual({ order: "serial", sure: true });
		expect(guess("16/11/2026", "16/12/2026", "soon")).toEqual({ order: "dmy", sure: true });
		expect(guess("soon")).toBeNull();
	});
	test("of every usual form are the same day", () => {
		const forms = [
			"24.11.2026",
			"24/11/26",
			"24-Nov-26",
			"24 November 2026",
			"24. Nov. 2026",
			"Nov 24, 2026",
			"Tue 24 Nov 2026",
			"24 novembre 2026",
			"24-nov-2026",
			"24.11.2026 10:30",
		];
		for (const form of forms) expect([form, readDate(form, "dmy", zone)]).toEqual([form, "2026-11-24"]);
		for (const form of ["2026-11-24", "2026/11/24", "20261124", "2026-11-24 10:00", "2026-Nov-24"])
			expect([form, readDate(form, "ymd", zone)]).toEqual([form, "2026-11-24"]);
		for (const form of ["11/24/2026", "11-24-26", "November 24th, 2026", "11/24/2026 4:05 PM"])
			expect([form, readDate(form, "mdy", zone)]).toEqual([form, "2026-11-24"]);
		expect(readDate("46350", "serial", zone)).toBe("2026-11-24");
		expect(readDate("46350.75", "serial", zone)).toBe("2026-11-24");
		expect([
			readDate("3 Dez 2026", "dmy", zone),
			readDate("3 déc. 2026", "dmy", zone),
			readDate("3 ene 2026", "dmy", zone),
			readDate("3 juin 2026", "dmy", zone),
		]).toEqual(["2026-12-03", "2026-12-03", "2026-01-03", "2026-06-03"]);
	});
	test("with a time and a zone of its own fall on the organisation’s day", () => {
		expect(readDate("2026-11-24T23:30:00Z", "ymd", zone)).toBe("2026-11-25");
		expect(readDate("2026-11-24T23:30:00+02:00", "ymd", zone)).toBe("2026-11-24");
		expect(readDate("2026-11-24T23:30:00", "ymd", zone)).toBe("2026-11-24");
	});
	test("that are none, or of another age, are refused", () => {
		for (const text of ["31/02/2026", "1/1/0001", "1/1/2201", "24 Smarch 2026", "today", "1/1/1"])
			expect([text, readDate(text, "dmy", zone)]).toEqual([text, null]);
	});
});

describe("amounts", () => {
	test("are read as people write them, or it is said why not", () => {
		const read = (mark: "." | ",") => (text: string) => readMoney(text, mark, "EUR");
		expect(["€ 1,234.50", "1234.5", "(1,000)", "-5", "500-", "- 5", "EUR 7", "1 234.50", "1'000", ".5", "-€5"].map(read("."))).toEqual([
			123_450, 123_450, -100_000, -500, -50_000, -500, 700, 123_450, 100_000, 50, -500,
		]);
		expect(["1.234,50 EUR", "1'000", "7,5", "1.200", "128.400"].map(read(","))).toEqual([123_450, 100_000, 750, 120_000, 12_840_000]);
		expect(["1.2M", "450k", "1.2 mn", "0.5 Mio.", "3 Tsd.", "€2m", "1.5bn"].map(read("."))).toEqual([
			120_000_000, 45_000_000, 120_000_000, 50_000_000, 300_000, 200_000_000, 150_000_000_000,
		]);
		expect(["1,2 Mio. €"].map(read(","))).toEqual([120_000_000]);
		expect(["1,23", "12.345", "abc", "1.2.3", "10 %", "5 loaves", "(5", "1,2 M", "--5", "12 34", "1.2345k2"].map(read("."))).toEqual([
			"groups",
			"decimals",
			"not an amount",
			"two marks",
			"a percentage",
			"unknown suffix",
			"not an amount",
			"groups",
			"not an amount",
			"groups",
			"not an amount",
		]);
		expect([readMoney("1000", ".", "JPY"), readMoney("1.5", ".", "JPY"), readMoney("1.234", ".", "KWD"), readMoney("1.5k", ".", "JPY")]).toEqual([
			1000,
			"decimals",
			1234,
			1500,
		]);
	});
	test("are read as a column: by the mark that fits them all, else by what last week’s were, else it is asked", () => {
		const column = (texts: string[], before: (number | null)[] = []) =>
			guessDecimal(texts.map((text, i) => ({ text, currency: "EUR", before: before[i] ?? null })));
		expect(column(["1.234,50", "12,00"])).toEqual({ mark: ",", sure: true });
		expect(column(["€1,234.50"])).toEqual({ mark: ".", sure: true });
		expect(column(["1.234.567", "1.200"])).toEqual({ mark: ",", sure: true });
		// Once these were €1, €128 and €10.
		const thousands = ["1.200", "128.400", "9.900"];
		expect(column(thousands).sure).toBe(false);
		expect(column(thousands, [120_000, 12_000_000, null])).toEqual({ mark: ",", sure: true });
		expect(column(thousands, [120, 12_840, null])).toEqual({ mark: ".", sure: true });
		// Once the mark of the first week made 12.50 of it in the second.
		expect(column(["12,500"], [1_250_000])).toEqual({ mark: ".", sure: true });
		expect(column(["12,500"], [99])).toEqual({ mark: ".", sure: false });
		// One value that only one mark can read speaks for all.
		expect(column([...thousands, "1.200,50"])).toEqual({ mark: ",", sure: true });
		expect(column(["1200", "500"])).toEqual({ mark: ".", sure: true });
		expect(column([])).toEqual({ mark: ".", sure: true });
	});
});

describe("a weekly file", () => {
	test("is read row by row; a column that isn’t there leaves its field unsaid", async () => {
		const { rows, problems } = await read(["D1,Ovens,Mill,1 - New,1200.50,05/12/2026,Rae,red", "D2,Mixers,,Won,,,,"]);
		expect(problems).toEqual([]);
		expect(rows).toEqual([
			{ line: 2, id: "D1", name: "Ovens", account: "Mill", stage: "Enquiry", amount: 120_050, currency: "EUR", closeDate: "2026-12-05", owner: "Rae" },
			{ line: 3, id: "D2", name: "Mixers", account: null, stage: "Won", amount: null, currency: null, closeDate: null, owner: null },
		]);
	});
	test("says line by line what is wrong, and where", async () => {
		expect(
			await reasons([
				"D1,A,B,1 - New,much,05/12/2026,Rae,",
				"D1,A,B,,1,13/13/2026,Rae,",
				"D2,A,B,1 - New,1,,,",
				"D2,A,B,1 - New,1,,,",
				",A,B,1 - New,1,,,",
				"x,y",
				"D3,A,B,1 - New,1,,,,beyond",
			]),
		).toEqual([
			"2 Value: this isn’t an amount; an amount is written like 1,234.50, 1234.5, 1.2M, 450k, (500)",
			"3 Sales Stage: the stage is blank",
			"3 Exp. close: this can’t be read as a date in the chosen order, day, month, year: 24.11.2026, 24/11/26, 24-Nov-26, 24. November 2026",
			"6 Record ID: this row doesn’t say which deal it is",
			"7 Sales Stage: the stage is blank",
			"8 null: this row has 9 cells, and the header has 8",
		]);
	});
	test("asks which of our stages theirs are, with how many rows have them", async () => {
		expect(await read(["D1,A,B,Odd,1,,,", "D2,A,B,Odd,1,,,", "D3,A,B,Won,1,,,"])).toMatchObject({ unknownStages: { Odd: 2 }, rows: [{ id: "D3" }] });
	});
	test("is refused whole where a column is used twice or a needed one is missing", async () => {
		expect((await reasons([], { columns: { ...columns, created: "Value" } }))[0]).toBe(
			"1 Value: this column is used for Amount and for Created; each column can be only one of them",
		);
		expect(await reasons([], { columns: { ...columns, owner: null, source: "gone" } })).toEqual([
			"1 null: no column is chosen for Rep; choose the one that holds it",
			"1 gone: the file has no such column; choose another one for Source",
		]);
		expect(await reasons([])).toEqual(["1 null: the file has no rows under its header"]);
	});
	test("without numbers goes by account and name", async () => {
		expect((await read(["D1,Ovens,Mill,Won,1,,,", "D2,Ovens,,Won,1,,,"], { columns: { ...columns, id: null } })).rows.map((row) => row.id)).toEqual([
			"Mill / Ovens",
			"Ovens",
		]);
	});
});
