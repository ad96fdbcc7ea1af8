import fc from "fast-check";
import iconv from "iconv-lite";
import { describe, expect, test } from "vitest";
import { makeZone } from "@/core/time/zone";
import { readRecords } from "@/formats/csv";
import { readGrid } from "@/formats/grid";
import { NotText, readText, SINGLE_BYTE } from "@/formats/text";
import { errorIn, meant, personIn } from "@/formats/weekly/cells";
import { meantCurrency } from "@/formats/weekly/currencyMarks";
import { dateReadings, guessDates, readDate } from "@/formats/weekly/dates";
import { guessColumns } from "@/formats/weekly/fields";
import { guessBetween } from "@/formats/weekly/layout";
import { currenciesOf, readMoney } from "@/formats/weekly/money";
import { mergeLines } from "@/formats/weekly/read";
import type { WeeklyRow } from "@/formats/weekly/rowReader";
import { currencyIn, scaleIn } from "@/formats/weekly/scale";

const zone = makeZone("Europe/Berlin");
const rated = (...codes: string[]) => new Set(codes);

describe("dates", () => {
	test("that can be read in two ways are told with both readings of the first that differ", () => {
		const values = ["01/12/2027", "04/04/2027", "05/01/2027", "2027-03-02"];
		const guess = guessDates(values, zone);
		expect([guess?.sure, guess?.able]).toEqual([false, ["dmy", "mdy"]]);
		expect(dateReadings(values, guess?.able ?? [], zone)).toEqual([
			{
				order: "dmy",
				samples: [
					{ text: "01/12/2027", day: "2027-12-01" },
					{ text: "05/01/2027", day: "2027-01-05" },
				],
			},
			{
				order: "mdy",
				samples: [
					{ text: "01/12/2027", day: "2027-01-12" },
					{ text: "05/01/2027", day: "2027-05-01" },
				],
			},
		]);
	});
	test("that can be read in one way only are read so in any order: one text among true dates, a count of days among texts", () => {
		for (const order of ["ymd", "dmy", "mdy", "serial"] as const)
			expect(["2026-11-24", "24-Nov-2026", "46350"].map((text) => readDate(text, order, zone))).toEqual(Array(3).fill("2026-11-24"));
		expect(guessDates(["2026-11-24", "2026-12-01", "24.12.2026"], zone)).toMatchObject({ order: "dmy", sure: true });
		expect(guessDates(["2026-11-24", "01.12.2026"], zone)).toMatchObject({ sure: false });
	});
});

describe("amounts", () => {
	test.each([
		["SEK 1200", ["SEK"]],
		["1 200 kr", ["SEK", "NOK", "DKK", "ISK"]],
		["1200,50 zł", ["PLN"]],
		["Kč 5", ["CZK"]],
		["5 Ft", ["HUF"]],
		["R$ 5", ["BRL"]],
		["CA$5", ["CAD"]],
		["US$5", ["USD"]],
		["A$5", ["AUD"]],
		["Fr. 5", ["CHF"]],
		["₹12,34,567", ["INR"]],
		["€5", ["EUR"]],
		["5 euros", ["EUR"]],
		["5", []],
		["5 Mio.", []],
		["450k", []],
	])("%s is in %j", (text, codes) => {
		const found = currenciesOf(text);
		expect(found).toEqual(codes);
	});
	test.each([
		["CA$ 1,200.50", 120_050],
		["1,200 kr", 120_000],
		["R$ 5", 500],
		["Fr. 1'200.50", 120_050],
		["₹12,34,567", 123_456_700],
		["1.2E+06", 120_000_000],
		["-3E2", -30_000],
		["1.2 Mio. zł", 120_000_000],
	])("%s is read as %d cents", (text, cents) => {
		expect(readMoney(text, ".", "EUR")).toBe(cents);
	});
	test("in thousands by their column are multiplied, unless they say something else themselves", () => {
		expect(["12.5", "0.0004", "3k", "1.2M"].map((text) => readMoney(text, ".", "EUR", { scale: 3 }))).toEqual([1_250_000, 40, 300_000, 120_000_000]);
	});
	test("with more decimals than their currency are rounded, half away from zero, where that is asked for", () => {
		expect(["0.125", "-0.125", "0.1249", "9.999"].map((text) => readMoney(text, ".", "EUR", { round: true }))).toEqual([13, -13, 12, 1000]);
		expect(readMoney("0.125", ".", "EUR")).toBe("decimals");
	});
	test("rounded lie within half a cent of what is written", () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 10 ** 9 }), (thousandths) => {
				const text = `${Math.floor(thousandths / 1000)}.${String(thousandths % 1000).padStart(3, "0")}`;
				expect(Math.abs((readMoney(text, ".", "EUR", { round: true }) as number) - thousandths / 10)).toBeLessThanOrEqual(0.5);
			}),
		);
	});
	test("of a sign that several currencies share are the file’s own, else the one that has a rate; else it is asked", () => {
		const crowns = ["SEK", "NOK", "DKK", "ISK"];
		expect([
			meantCurrency(crowns, "NOK", rated("SEK")),
			meantCurrency(crowns, "EUR", rated("SEK", "GBP")),
			meantCurrency(crowns, "EUR", rated("SEK", "DKK")),
			meantCurrency(crowns, "EUR", rated()),
			meantCurrency(["USD", "CAD"], "EUR", rated()),
			meantCurrency(["PLN"], "EUR", rated()),
			meantCurrency([], "EUR", rated()),
		]).toEqual(["NOK", "SEK", null, null, "USD", "PLN", "EUR"]);
	});
});

describe("a column’s header", () => {
	test.each([
		["Value (k EUR)", 3],
		["Umsatz T€", 3],
		["Amount in thousands", 3],
		["Amount (000)", 3],
		["Betrag TEUR", 3],
		["Volumen in Tsd. €", 3],
		["k€", 3],
		["Amount (€m)", 6],
		["Mio. €", 6],
		["Value (M€)", 6],
		["Deal value in millions", 6],
		["€bn", 9],
		["Amount", null],
		["Market value", null],
		["Total contract value", null],
		["Milestone amount", null],
		["Amount (EUR)", null],
		["Kunde", null],
	])("%s says its amounts are in 10^%s", (header, scale) => {
		expect(scaleIn(header)).toBe(scale);
	});
	test("names its currency where that is one of ours", () => {
		const known = rated("EUR", "GBP");
		expect(["Value (k EUR)", "Amount £", "TEUR", "Amount ALL", "Amount", "Amount kr"].map((header) => currencyIn(header, known))).toEqual([
			"EUR",
			"GBP",
			"EUR",
			null,
			null,
			null,
		]);
	});
	test("of what is weighed by a chance isn’t taken for the amount", () => {
		const amount = (...header: string[]) => guessColumns(header, null).amount;
		expect(amount("Probability amount", "Total contract value")).toBe("Total contract value");
		expect(amount("Weighted amount", "Amount")).toBe("Amount");
		expect(amount("Expected revenue", "Value")).toBe("Value");
		expect(amount("Expected revenue")).toBeNull();
	});
});

describe("cells", () => {
	test('that say there is nothing are blank, and `="A1"` is its text', () => {
		expect(["-", "–", "n/a", "TBD", "N/A", "k.A.", ' ="0042" ', "x - y", "-5", "#N/A"].map(meant)).toEqual([
			"",
			"",
			"",
			"",
			"",
			"",
			"0042",
			"x - y",
			"-5",
			"#N/A",
		]);
	});
	test("that show an error of the spreadsheet are errors", () => {
		expect(["#DIV/0!", "#N/A", "#REF!", "#WERT!", "#1", "C# course"].map(errorIn)).toEqual(["#DIV/0!", "#N/A", "#REF!", "#WERT!", null, null]);
	});
	test("that name nobody name nobody; who has left keeps their name", () => {
		expect(["Unassigned", "n.a.", "Ana Silva (inactive)", "(inactive)", "Nicht zugewiesen", "Nadia Ross"].map(personIn)).toEqual([
			null,
			"n.a.",
			"Ana Silva",
			null,
			null,
			"Nadia Ross",
		]);
	});
	test("with the quotes of formulas are parted as they are meant", () => {
		const rows = (text: string) => readRecords(new TextEncoder().encode(text)).rows.map(({ cells }) => cells);
		expect(rows('id,name\n="0042","Rye, dark"\nx,="a,b"\n')).toEqual([
			["id", "name"],
			["0042", "Rye, dark"],
			["x", "a,b"],
		]);
	});
});

describe("lines that are no deals", () => {
	const grid = (...lines: string[]) => lines.map((line, i) => ({ line: i + 2, cells: line.split(",") }));
	const between = (...lines: string[]) => guessBetween(grid(...lines), 5, [1, 2, 4]);
	test("are subtotals, with a deal’s number or without, and headings of groups", () => {
		expect(
			between("Ovens,2026-12-01,Enquiry,100,Ana", "Total Ana,,Enquiry,30000.00,", "Mixers,2026-12-02,Enquiry,5,Bo", "North,,,,", "Bo total:,,,5,"),
		).toEqual([3, 5, 6]);
	});
	test("are no deals of such names", () => {
		expect(between("Total refurbishment,2026-12-01,Enquiry,100,Ana", "Sum of parts,2026-12-01,Enquiry,,Ana", "Ovens,,Enquiry,5,Ana")).toEqual([]);
	});
});

describe("several lines of one deal", () => {
	const row = (given: Partial<WeeklyRow>): WeeklyRow => ({
		line: 2,
		id: "D1",
		name: "Ovens",
		stage: "Enquiry",
		amount: 100,
		currency: "EUR",
		closeDate: "2026-12-01",
		owner: "Ana",
		...given,
	});
	test("are added up where all else agrees", () => {
		expect(mergeLines([row({}), row({ line: 3, amount: 250 }), row({ line: 4, amount: null, currency: null })], null)).toEqual({
			row: row({ amount: 350 }),
			lines: 3,
			differs: [],
		});
	});
	test("that differ say in what, until it is said which counts", () => {
		const lines = [row({}), row({ line: 3, amount: 50, closeDate: "2027-01-01", stage: "Won" })];
		expect(mergeLines(lines, null).differs).toEqual(["stage", "close date"]);
		expect(mergeLines(lines, "first")).toMatchObject({ differs: [], row: { amount: 150, stage: "Enquiry", closeDate: "2026-12-01" } });
		expect(mergeLines(lines, "last")).toMatchObject({ differs: [], row: { amount: 150, stage: "Won", closeDate: "2027-01-01" } });
	});
	test("of several currencies are never added up", () => {
		const lines = [row({}), row({ line: 3, amount: 50, currency: "GBP" })];
		expect(mergeLines(lines, null).differs).toEqual(["currency"]);
		expect(mergeLines(lines, "last").row).toMatchObject({ amount: 50, currency: "GBP" });
	});
});

describe("text of a byte a letter", () => {
	const encoded = (text: string, name: string) => new Uint8Array(iconv.encode(text, name));
	const TEXT = "Deal;Kunde\nÖfen;Bäckerei Müller\nGärschrank;Café Größe\n";
	test.each([
		["windows-1252", "Windows-1252"],
		["cp850", "CP850"],
		["macroman", "Mac Roman"],
	] as const)("in %s is read as it is spelt", (name, encoding) => {
		expect(readText(encoded(TEXT, name))).toEqual({ text: TEXT, encoding, open: [] });
	});
	test("that could be several is the one that spells a known name, else it is open, with a line to choose by", () => {
		const bytes = encoded("Deal;Kunde\nx;Köln\n", "cp850");
		const open = readText(bytes);
		expect(open.open.map(({ encoding, sample }) => [encoding, sample])).toEqual([
			["CP850", "x;Köln"],
			["Mac Roman", "x;Kîln"],
		]);
		expect(readText(bytes, { names: ["Köln", "Ulm"] })).toMatchObject({ text: "Deal;Kunde\nx;Köln\n", open: [] });
		expect(readText(bytes, { encoding: "Mac Roman" })).toMatchObject({ encoding: "Mac Roman", open: [] });
	});
	test("never is another text than the encoding that it says makes of it", () => {
		fc.assert(
			fc.property(
				fc.uint8Array({ minLength: 1, maxLength: 60 }).map((bytes) => bytes.map((byte) => (byte < 32 ? 65 : byte))),
				(bytes) => {
					// Bytes that no text has are refused, which says nothing of an encoding.
					const read = textOrRefusal(bytes);
					if (!read) return;
					const { text, encoding } = read;
					const single = SINGLE_BYTE.find((one) => one === encoding);
					if (single) expect(text).toBe(iconv.decode(Buffer.from(bytes), { "Windows-1252": "windows-1252", CP850: "cp850", "Mac Roman": "macroman" }[single]));
				},
			),
		);
	});
});

function textOrRefusal(bytes: Uint8Array): ReturnType<typeof readText> | null {
	try {
		return readText(bytes);
	} catch (error) {
		if (error instanceof NotText) return null;
		throw error;
	}
}

test("a workbook’s error cells stay errors, its true dates days", async () => {
	const { default: ExcelJS } = await import("exceljs");
	const book = new ExcelJS.Workbook();
	const sheet = book.addWorksheet("Deals");
	sheet.addRow(["Deal", "Amount", "Close"]);
	sheet.addRow(["Ovens", { error: "#DIV/0!" }, new Date("2026-12-01T00:00:00Z")]);
	sheet.addRow(["Mixers", { formula: "1/0", result: { error: "#REF!" } as never }, "24.12.2026"]);
	const grid = await readGrid(new Uint8Array(await book.xlsx.writeBuffer()));
	expect(grid.rows.slice(1).map(({ cells }) => cells)).toEqual([
		["Ovens", "#DIV/0!", "2026-12-01"],
		["Mixers", "#REF!", "24.12.2026"],
	]);
});
