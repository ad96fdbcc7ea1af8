import { Workbook } from "exceljs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { needsOf } from "@/core/deal/needs";
import { bandOf } from "@/features/accounts/server/accountLines";
import { bandWords } from "@/features/accounts/server/readAccounts";
import { COLUMNS, STANDARD_COLUMNS } from "@/features/deals/columns";
import { choicesOf, FILTERS, filterField, filterWords, meets, readFilter, writeFilter } from "@/features/deals/filters";
import { GROUPINGS, groupDeals, totals } from "@/features/deals/table/groups";
import { packDeals, unpackDeals } from "@/features/deals/table/pack";
import type { DealRow } from "@/features/deals/table/row";
import { readSort, sortDeals, writeSort } from "@/features/deals/table/sorts";
import { changeOf } from "@/features/deals/ui/edit/fieldInput";
import { viewQuery } from "@/features/deals/ui/useTable";
import { mentioned } from "@/features/sheet/server/writeNote";
import { harmless, tableCsv, tableXlsx } from "@/formats/table";
import { row } from "../kit/row";

const order = (rows: DealRow[], ...sorts: string[]) =>
	sortDeals(
		rows,
		sorts.flatMap((sort) => readSort(sort) ?? []),
	).map((r) => r.id);

describe("sorting deals", () => {
	test("without a wish by attention, then amount, then id", () => {
		expect(order([row("c"), row("a"), row("b", { amount: 200 }), row("d", { score: 11 })])).toEqual(["d", "b", "a", "c"]);
	});
	test("by amount the largest first, and turned round with a minus", () => {
		const rows = [row("a", { amount: 1 }), row("b", { amount: 3 }), row("c", { amount: 2 })];
		expect(order(rows, "amount")).toEqual(["b", "c", "a"]);
		expect(order(rows, "-amount")).toEqual(["a", "c", "b"]);
	});
	test("by several columns: the next decides where the one before doesn’t", () => {
		const rows = [row("a", { owner: "Bo", amount: 5 }), row("b", { owner: "Ann", amount: 1 }), row("c", { owner: "Bo", amount: 9 })];
		expect(order(rows, "owner", "amount")).toEqual(["b", "c", "a"]);
		expect(order(rows, "owner", "-amount")).toEqual(["b", "a", "c"]);
	});
	test("blanks stand last whichever way it is sorted", () => {
		const rows = [row("a", { close: null }), row("b", { close: "2026-12-05" }), row("c", { close: "2026-11-05" })];
		expect(order(rows, "close")).toEqual(["c", "b", "a"]);
		expect(order(rows, "-close")).toEqual(["b", "c", "a"]);
	});
	test("by evidence, those furthest below what is expected first; by stage, the latest and longest", () => {
		expect(order([row("a", { strength: 40, expected: 30 }), row("b", { strength: 40, expected: 67 })], "evidence")).toEqual(["b", "a"]);
		expect(order([row("a", { rank: 2, stageAge: 40 }), row("b", { rank: 3, stageAge: 1 }), row("c", { rank: 3, stageAge: 8 })], "stage")).toEqual([
			"c",
			"b",
			"a",
		]);
	});
	test("never changes the list it is given, nor loses a row, and reads what it writes", () => {
		const rows = [row("c"), row("a"), row("b")];
		for (const { key } of COLUMNS) {
			expect(order(rows, key).sort()).toEqual(["a", "b", "c"]);
			for (const text of [key, `-${key}`]) expect(writeSort(readSort(text) as never)).toBe(text);
		}
		expect(rows.map((r) => r.id)).toEqual(["c", "a", "b"]);
		expect(readSort("nonsense")).toBeNull();
		for (const key of STANDARD_COLUMNS) expect(COLUMNS.map((c) => c.key)).toContain(key);
	});
});

describe("filtering deals", () => {
	const setting = { seen: "2026-11-24", currency: "EUR", found: new Map([["chimney", new Set(["a"])]]) };
	const fits = (text: string, given: Partial<DealRow>, id = "a") => meets(row(id, given), readFilter(text) as never, setting);
	test("amounts are asked for in whole units, and blanks never fit", () => {
		expect(fits("amount.from.50000", { amount: 5_000_000 })).toBe(true);
		expect(fits("amount.from.50000", { amount: 4_999_999 })).toBe(false);
		expect(fits("amount.to.50000", { amount: 5_000_001 })).toBe(false);
		expect(fits("amount.to.50000", { amount: 0, amountBlank: true })).toBe(false);
	});
	test("closing in the next days leaves out what is overdue and what has no date", () => {
		expect([0, 20, 21, -1].map((runway) => fits("runway.within.20", { runway }))).toEqual([true, true, false, false]);
		expect(fits("runway.within.20", { runway: null })).toBe(false);
		expect(fits("runway.over.20", { runway: 21 })).toBe(true);
	});
	test("last contact over three weeks ago takes in those never spoken to", () => {
		expect(["2026-11-03", "2026-11-02", null].map((lastTouch) => fits("lastTouch.over.21", { lastTouch }))).toEqual([false, true, true]);
		expect(fits("lastTouch.within.21", { lastTouch: null })).toBe(false);
	});
	test("choices take any of several, with blank as one of them", () => {
		expect(fits("stage.in.Terms|Proposal", { stage: "Proposal" })).toBe(true);
		expect(fits("product.in.Mixer", { products: ["Oven", "Mixer"] })).toBe(true);
		expect(fits("competitor.in.(blank)", { competitor: null })).toBe(true);
		expect(fits("tag.in.summer", { tags: [] })).toBe(false);
		expect(fits("waiting.in.they are waiting for us", { waiting: "they" })).toBe(true);
	});
	test("dates and figures", () => {
		expect(fits("close.before.2026-12-01", { close: "2026-11-30" })).toBe(true);
		expect(fits("close.after.2026-12-01", { close: "2026-12-01" })).toBe(false);
		expect(fits("close.after.2026-12-01", { close: null })).toBe(false);
		expect(fits("probability.from.40", { probability: 0.4 })).toBe(true);
		expect(fits("strength.to.30", { strength: 31 })).toBe(false);
	});
	test("a text is looked up in what the server found; until then it leaves nothing out", () => {
		expect(fits("text.has.chimney", {}, "a")).toBe(true);
		expect(fits("text.has.chimney", {}, "b")).toBe(false);
		expect(fits("text.has.boiler", {}, "b")).toBe(true);
	});
	test("what can’t be a condition is left aside", () => {
		for (const text of ["amount.from.much", "amount.within.5", "nothing.from.5", "close.before.2026-02-30", "amount.from.", "amount", "probability.from. "]) {
			expect(readFilter(text)).toBeNull();
		}
	});
	test("each reads as words, and stands in an address as it is read, dots and all", () => {
		const words = (text: string) => filterWords(readFilter(text) as never, { currency: "EUR" });
		expect(words("amount.from.50000")).toBe("amount from €50k");
		expect(words("runway.within.20")).toBe("closing in the next 20 working days");
		expect(words("lastTouch.over.21")).toBe("last contact over 21 days ago");
		expect(words("probability.from.40")).toBe("chance from 40%");
		expect(words("stage.in.Terms|Proposal")).toBe("stage Terms or Proposal");
		expect(words("text.has.v. 2.1")).toBe("“v. 2.1” in notes or activities");
		for (const { field, ops, unit } of FILTERS) {
			for (const op of ops) {
				const text = `${field}.${op}.${unit === "day" ? "2026-12-01" : unit === "choice" || unit === "text" ? "a.b" : "7"}`;
				expect(writeFilter(readFilter(text) as never)).toBe(text);
				expect(words(text).length).toBeGreaterThan(5);
			}
		}
	});
	test("choices are offered with how many deals have them", () => {
		const rows = [row("a", { products: ["Oven", "Mixer"] }), row("b", { products: ["Oven"] }), row("c")];
		expect(choicesOf(rows, filterField("product") as never)).toEqual([
			{ value: "Oven", count: 2 },
			{ value: "(blank)", count: 1 },
			{ value: "Mixer", count: 1 },
		]);
	});
});

describe("grouping deals", () => {
	const deals = fc.array(
		fc.record({
			owner: fc.constantFrom("Ann", "Bo"),
			stage: fc.constantFrom("Terms", "Survey"),
			amount: fc.nat(1e6),
			weighted: fc.nat(1e6),
			products: fc.array(fc.constantFrom("x", "y")),
		}),
	);
	test("each deal is in one group, so that the subtotals add up to the total", () => {
		fc.assert(
			fc.property(deals, fc.constantFrom(...GROUPINGS.map((g) => g.key)), (given, key) => {
				const rows = given.map((fields, i) => row(String(i), fields));
				const groups = groupDeals(rows, key);
				expect(groups.flatMap((g) => g.rows.map((r) => r.id)).sort()).toEqual(rows.map((r) => r.id).sort());
				expect(groups.reduce((sum, g) => sum + g.amount, 0)).toBe(totals(rows).amount);
				expect(groups.reduce((sum, g) => sum + g.weighted, 0)).toBe(totals(rows).weighted);
			}),
		);
	});
	test("stages stand in their own order, others by amount", () => {
		const rows = [row("a", { stage: "Terms", rank: 3, amount: 900 }), row("b", { stage: "Survey", rank: 1, amount: 1 })];
		expect(groupDeals(rows, "stage").map((g) => g.name)).toEqual(["Survey", "Terms"]);
		expect(groupDeals([row("a", { owner: "Ann", amount: 1 }), row("b", { owner: "Bo", amount: 2 })], "owner").map((g) => g.name)).toEqual(["Bo", "Ann"]);
	});
});

describe("packing", () => {
	const view = (rows: DealRow[]) => ({ status: "open" as const, rows, currency: "EUR", flagNames: [], also: { before: 1, after: 2, undated: 0 } });
	const flag = { code: "overdue", label: "Overdue 6 d", severity: 3 as const, reason: "close date was 18 Nov" };
	test("a view is the same after the way to the browser", () => {
		const some = view([row("a", { flags: [flag], tags: ["“quoted”", "</script>"], change: null }), row("b", { trail: [["2026-12-01", "2026-11-01"]] })]);
		expect(unpackDeals(packDeals(some))).toEqual(some);
		expect(unpackDeals(packDeals(view([])))).toEqual(view([]));
	});
	test("of thousands of rows only the reasons stay behind", () => {
		const many = view(Array.from({ length: 2001 }, (_, i) => row(String(i), { flags: [flag] })));
		const back = unpackDeals(packDeals(many));
		expect(back.rows.find(({ id }) => id === "7")).toEqual({ ...many.rows[7], flags: [{ ...flag, reason: "" }] });
		expect(packDeals(many).length).toBeLessThan(JSON.stringify(many).length / 2);
	});
});

describe("tables as files", () => {
	const columns = [
		{ label: "Deal", kind: "text" },
		{ label: "Amount EUR", kind: "amount" },
		{ label: "Close date", kind: "day" },
	] as const;
	const cells = [
		["=HYPERLINK(1)", 1200.5, "2026-12-01"],
		['He said "no",\nthen yes', null, null],
	];
	test("nothing runs as a formula in a spreadsheet", () => {
		expect(["=1", "+1", "-1", "@x", "\tx", "a=1", "Ärger"].map(harmless)).toEqual(["'=1", "'+1", "'-1", "'@x", "'\tx", "a=1", "Ärger"]);
	});
	test("a CSV has a mark, quotes what needs it and keeps numbers", () => {
		const text = new TextDecoder("utf-8", { ignoreBOM: true }).decode(tableCsv(columns, cells));
		expect(text.charCodeAt(0)).toBe(0xfeff);
		expect(text.slice(1).split(/\r?\n/)[1]).toBe("'=HYPERLINK(1),1200.5,2026-12-01");
		expect(text).toContain('"He said ""no"",\nthen yes",,');
	});
	test("an XLSX has texts, numbers and days of their kinds", async () => {
		const book = new Workbook();
		await book.xlsx.load((await tableXlsx("Deals: all/of them?", columns, cells)).buffer as never);
		const sheet = book.worksheets[0];
		expect(sheet?.name).toBe("Deals  all of them ");
		const read = sheet?.getRow(2);
		expect([read?.getCell(1).value, read?.getCell(1).formula, read?.getCell(2).value]).toEqual(["=HYPERLINK(1)", undefined, 1200.5]);
		expect(read?.getCell(3).value).toEqual(new Date("2026-12-01T00:00:00Z"));
	});
});

describe("editing", () => {
	const stages = [
		{ name: "Terms", kind: "open" },
		{ name: "Won", kind: "won" },
		{ name: "Lost", kind: "lost" },
	] as const;
	const needs = (change: Parameters<typeof needsOf>[1], deal = { stage: "Terms", closeDate: "2026-12-01" as string | null }) =>
		needsOf(deal, change, stages).map((need) => need.name);
	test("a push asks why; a pull, a first date and a blank one don’t", () => {
		expect(needs({ closeDate: "2026-12-02" })).toEqual(["reason"]);
		expect(needs({ closeDate: "2026-11-30" })).toEqual([]);
		expect(needs({ closeDate: "2026-12-02" }, { stage: "Terms", closeDate: null })).toEqual([]);
		expect(needs({ closeDate: null })).toEqual([]);
	});
	test("a loss asks for its reason and the competitor, a win for its day; once closed nothing more", () => {
		expect(needs({ stage: "Lost" })).toEqual(["outcomeReason", "competitor"]);
		expect(needs({ stage: "Won" })).toEqual(["closedOn"]);
		expect(needs({ stage: "Won" }, { stage: "Won", closeDate: null })).toEqual([]);
	});
	test("an amount is read as people write it, or said to be none", () => {
		expect(changeOf("amount", { amount: "41 250.50" }, "EUR")).toEqual({ amount: 4_125_050 });
		expect(changeOf("amount", { amount: "41’250" }, "JPY")).toEqual({ amount: 41_250 });
		expect(changeOf("amount", { amount: "" }, "EUR")).toEqual({ amount: null });
		expect(changeOf("amount", { amount: "a lot" }, "EUR")).toContain("isn’t an amount");
		expect(changeOf("nextStep", { nextStep: " Call ", nextStepDate: "" }, "EUR")).toEqual({ nextStep: "Call", nextStepDate: null });
	});
	test("a saved view keeps how one looks, not the day it is seen on nor the open sheet", () => {
		expect(viewQuery("?seen=2026-11-01&flags=slipped&deal=x&due=2026-Q4&view=7&against=2026-10-01")).toBe("due=2026-Q4&flags=slipped");
	});
});

describe("words about people and accounts", () => {
	test("somebody is called on by the whole name, not by its beginning", () => {
		expect(mentioned("@Rae Penn: call them", "Rae Penn")).toBe(true);
		expect(mentioned("Hi @rae penn", "Rae Penn")).toBe(true);
		expect(mentioned("@Rae Pennington", "Rae Penn")).toBe(false);
		expect(mentioned("Rae Penn", "Rae Penn")).toBe(false);
		expect(mentioned("@Rae Pennington and @Rae Penn.", "Rae Penn")).toBe(true);
	});
	test("bands of last contact have an upper end that belongs to them", () => {
		expect([0, 14, 15, 42, 91, 92].map((days) => bandOf(days, [14, 42, 91]))).toEqual([0, 0, 1, 1, 2, 3]);
		expect(bandWords([14, 42, 91])).toEqual(["up to 14 days", "15 to 42 days", "43 to 91 days", "over 91 days", "not in 365 days"]);
	});
});
