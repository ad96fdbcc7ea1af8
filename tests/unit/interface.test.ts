import { describe, expect, test } from "vitest";
import { change, longDate, money, nearDate, shortDate, shortMoney, spaced } from "@/ui/format";
import { levelWord } from "@/ui/parts/Level";
import { SORTS, sortDeals } from "@/ui/screens/deals/sorts";
import type { DealRow } from "@/usecases/readDeals";

const row = (id: string, given: Partial<DealRow> = {}): DealRow => ({
	id,
	name: id,
	account: "A",
	owner: "Ann",
	ownerId: "ann",
	ownerActive: true,
	stage: "Terms",
	rank: 3,
	stageAge: 1,
	usual: 5,
	usualLimit: 9,
	usualMeasured: true,
	amount: 100,
	amountBlank: false,
	weighted: 80,
	change: 0,
	close: "2026-12-01",
	trail: [],
	pushes: 0,
	category: null,
	strength: 50,
	coverage: 60,
	expected: 50,
	flags: [],
	score: 10,
	level: "calm",
	nextStep: null,
	lastTouch: null,
	...given,
});
const order = (rows: DealRow[], key: (typeof SORTS)[number]["key"]) => sortDeals(rows, key).map((r) => r.id);

describe("sorting deals", () => {
	test("by attention, then amount, then id", () => {
		expect(order([row("c"), row("a"), row("b", { amount: 200 }), row("d", { score: 11 })], "attention")).toEqual(["d", "b", "a", "c"]);
	});
	test("by amount and by days in stage, the largest first", () => {
		expect(order([row("a", { amount: 1 }), row("b", { amount: 3 }), row("c", { amount: 2 })], "amount")).toEqual(["b", "c", "a"]);
		expect(order([row("a", { stageAge: 1 }), row("b", { stageAge: 30 })], "stage")).toEqual(["b", "a"]);
	});
	test("by change takes its size, whichever way it went; new deals stand last", () => {
		expect(order([row("a", { change: 5 }), row("b", { change: -9 }), row("c", { change: null })], "change")).toEqual(["b", "a", "c"]);
	});
	test("by close date, the soonest first and undated ones last", () => {
		expect(order([row("a", { close: null }), row("b", { close: "2026-12-05" }), row("c", { close: "2026-11-05" })], "close")).toEqual(["c", "b", "a"]);
	});
	test("by evidence, those furthest below what is expected first", () => {
		expect(
			order([row("a", { strength: 40, expected: 30 }), row("b", { strength: 40, expected: 67 }), row("c", { strength: 20, expected: 24 })], "evidence"),
		).toEqual(["b", "c", "a"]);
	});
	test("by rep and by name, in the alphabet's order", () => {
		expect(order([row("a", { owner: "Zed" }), row("b", { owner: "Ann" })], "owner")).toEqual(["b", "a"]);
		expect(order([row("a", { name: "Österreich" }), row("b", { name: "Zoo" }), row("c", { name: "Oven" })], "name")).toEqual(["a", "c", "b"]);
	});
	test("never changes the list it is given, nor loses a row", () => {
		const rows = [row("c"), row("a"), row("b")];
		for (const { key } of SORTS) expect(order(rows, key).sort()).toEqual(["a", "b", "c"]);
		expect(rows.map((r) => r.id)).toEqual(["c", "a", "b"]);
	});
});

describe("figures in words", () => {
	test("amounts carry their currency, and a minus that is one", () => {
		expect(money(41_200_000, "EUR")).toBe("€412\u00a0000");
		expect(money(-41_200_000, "EUR")).toBe("−€412\u00a0000");
		expect(money(1_250, "JPY")).toBe("¥1\u00a0250");
		expect(money(100_000, "SEK")).toBe("SEK\u00a01\u00a0000");
		expect(shortMoney(-95_000_000, "EUR")).toBe("−€950k");
	});
	test("changes carry their sign", () => {
		expect([change(1_250_000, "EUR"), change(-3_800_000, "EUR"), change(0, "EUR")]).toEqual(["+12\u00a0500", "−38\u00a0000", "0"]);
	});
	test("days are short near the seen day and carry the year elsewhere", () => {
		expect([shortDate("2026-11-18"), longDate("2026-11-18"), shortDate(null)]).toEqual(["18 Nov", "18 Nov 2026", "–"]);
		expect([nearDate("2026-01-15", "2026-11-24"), nearDate("2027-01-15", "2026-11-24"), nearDate(null, "2026-11-24")]).toEqual(["15 Jan", "15 Jan 2027", "–"]);
	});
	test("words of the data read as words", () => {
		expect([spaced("best_case"), spaced(null), levelWord("against"), levelWord("heard")]).toEqual(["best case", "", "against us", "heard"]);
	});
});
