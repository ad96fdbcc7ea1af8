import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { shortMoney } from "@/core/money/words";
import { fisher } from "@/core/statistics/fisher";
import { showsNothing } from "@/core/statistics/lift";
import { shareOf } from "@/core/statistics/wilson";
import { Book, behindOf, type Case } from "@/features/patterns/server/book";
import { contentOf } from "@/features/patterns/server/file";
import { grouped, groupingOf, offered } from "@/features/patterns/server/groups";
import { PATTERN_KINDS } from "@/features/patterns/server/kinds";
import { verdictOf } from "@/features/patterns/server/kinds/foretell";
import { lookAsked, MOST_LEAD, MOST_QUARTERS, USUAL_LOOK } from "@/features/patterns/server/looking";
import { levelWords, percent, spelt } from "@/features/patterns/server/words";
import { type Cell, type Column, type PatternTable, sortedBy, text } from "@/features/patterns/table/view";
import { tableCsv } from "@/formats/table";

describe("how far an address looks back", () => {
	test("is the usual where it says nothing that can be read", () => {
		for (const asked of [{}, { quarters: "", lead: "" }, { quarters: "four", lead: "-3" }, { quarters: "1e2", lead: "20.5" }])
			expect(lookAsked(asked)).toEqual(USUAL_LOOK);
	});
	test("stays within bounds, whatever stands there", () => {
		fc.assert(
			fc.property(fc.string({ maxLength: 6 }), fc.nat(2000), (words, number) => {
				for (const asked of [words, String(number)]) {
					const { quarters, lead } = lookAsked({ quarters: asked, lead: asked });
					expect(quarters).toBeGreaterThanOrEqual(1);
					expect(quarters).toBeLessThanOrEqual(MOST_QUARTERS);
					expect(lead).toBeGreaterThanOrEqual(0);
					expect(lead).toBeLessThanOrEqual(MOST_LEAD);
				}
			}),
		);
		expect(lookAsked({ quarters: "8", lead: "0" })).toEqual({ quarters: 8, lead: 0 });
	});
});

describe("words", () => {
	test("of shares, amounts, levels and what isn’t named", () => {
		expect([percent(0.666), percent(0), percent(null)]).toEqual(["67%", "0%", "–"]);
		expect([shortMoney(1_234_567_00, "EUR"), shortMoney(-62_000_000, "EUR")]).toEqual(["€1.23m", "−€620k"]);
		expect([levelWords("against"), levelWords("shown")]).toEqual(["against us", "shown"]);
		expect([spelt("existing_customer", "none"), spelt("", "none"), spelt(null, "none")]).toEqual(["existing customer", "none", "none"]);
	});
});

describe("what a track record says", () => {
	const verdict = (a: [number, number], b: [number, number]) => {
		const arm = ([k, n]: [number, number]) => ({ ...shareOf(k, n), deals: n });
		const apart = fisher(...a, ...b) <= 0.05;
		return verdictOf({ with: arm(a), without: arm(b), apart, nothing: !apart && showsNothing(...a, ...b) });
	};
	test("is that it differs only where a test says so, that it doesn’t only where that is shown, and of few nothing", () => {
		expect(verdict([39, 48], [28, 78])).toBe("miss");
		expect(verdict([28, 78], [39, 48])).toBe("win");
		expect(verdict([24, 36], [43, 90])).toBe("unclear");
		expect(verdict([300, 560], [370, 700])).toBe("nothing");
		// As even, but of few: that it foretells nothing would say too much.
		expect(verdict([30, 56], [37, 70])).toBe("unclear");
		expect(verdict([3, 6], [64, 120])).toBe("unclear");
		expect(verdict([4, 4], [60, 120])).toBe("few");
		expect(verdict([60, 120], [0, 0])).toBe("few");
	});
	test("never claims both that a flag foretold something and that it showed no difference", () => {
		const pair = fc.tuple(fc.nat(80), fc.nat(80)).map(([a, b]): [number, number] => [Math.min(a, b), Math.max(a, b)]);
		fc.assert(
			fc.property(pair, pair, (a, b) => {
				const one = verdict(a, b);
				const turned = verdict(b, a);
				if (one === "miss") expect(turned).toBe("win");
				if (one === "few") expect(turned).toBe(one);
				if (one === "unclear" || one === "nothing") expect(["unclear", "nothing"]).toContain(turned);
			}),
		);
	});
});

describe("groups", () => {
	test("take each member once, however often it names a group, in the order in which they come", () => {
		const found = grouped([1, 2, 3, 4], (one) => (one % 2 ? ["odd", "odd", "all"] : ["all"]));
		expect([...found]).toEqual([
			["odd", [1, 3]],
			["all", [1, 2, 3, 4]],
		]);
	});
	test("are those that a view offers; any other asks for the first", () => {
		const grouping = (key: string) => ({ key, label: `by ${key}`, partsOf: () => [], nameOf: () => "" });
		const list = [grouping("rep"), grouping("kind")];
		expect(groupingOf("kind", list).key).toBe("kind");
		expect(groupingOf("account", list).key).toBe("rep");
		expect(groupingOf(undefined, list).key).toBe("rep");
		expect(offered(list)).toEqual([
			{ key: "rep", label: "by rep" },
			{ key: "kind", label: "by kind" },
		]);
	});
	test("views have keys and words of their own, none of them that of the outlook", () => {
		const keys = PATTERN_KINDS.map(({ key }) => key);
		expect(new Set(keys).size).toBe(keys.length);
		expect(new Set(PATTERN_KINDS.map(({ label }) => label)).size).toBe(keys.length);
		expect(keys).not.toContain("outlook");
		for (const key of keys) expect(key).toMatch(/^[a-z]+$/);
	});
});

describe("a book", () => {
	const person = { id: "p", name: "P", role: "rep", team: null };
	const context = (owner: number) =>
		({
			actor: { person: { ...person, role: owner === -2 ? "ops" : "rep" }, index: owner },
			organisation: {
				deals: [
					{ id: "d0", name: "Ovens", accountId: null },
					{ id: "d1", name: "", accountId: null },
				],
				people: [person, { ...person, id: "q", name: "Q Other" }],
				accounts: new Map(),
				teams: new Map(),
			},
		}) as never;
	const one = (deal: number, owner: number, hit: boolean | null, amount = 100): Case => ({ deal, day: 20_000, owner, amount, came: "won", hit });
	test("opens nothing that it doesn’t know", () => {
		expect(behindOf(context(-2), new Book(), "x")).toBeNull();
	});
	test("counts all, names those that are reached, the counted and the largest first", () => {
		const book = new Book();
		const key = book.open("k", "Title", "were won", () => [
			one(0, 0, false, 900),
			one(1, 0, true, 5),
			one(0, 0, true, 70),
			one(0, 1, true),
			one(0, 0, false, 800),
		]);
		const all = behindOf(context(-2), book, key);
		expect(all).toMatchObject({ key: "k", title: "Title", sum: "3 of 5 were won", hidden: 0 });
		expect(all?.lines.map(({ amount, hit }) => [amount, hit])).toEqual([
			[100, true],
			[70, true],
			[5, true],
			[900, false],
			[800, false],
		]);
		const few = book.open("few", "Few", "were won", () => [one(0, 0, false), one(1, 0, true)]);
		expect(behindOf(context(-2), book, few)?.sum).toBe("2 deals");
		const mine = behindOf(context(0), book, key);
		expect(mine).toMatchObject({ sum: "3 of 5 were won", hidden: 1 });
		expect(mine?.lines).toHaveLength(4);
		expect(mine?.lines[1]).toMatchObject({ name: "No name", account: "No account", owner: "P" });
	});
	test("says how many there are where all of them are counted", () => {
		const book = new Book();
		book.open("k", "Title", null, () => [one(0, 0, null)]);
		expect(behindOf(context(-2), book, "k")?.sum).toBe("1 deal");
	});
	test("looks nothing up before it is opened", () => {
		const book = new Book();
		let asked = 0;
		book.open("k", "Title", null, () => {
			asked++;
			return [];
		});
		expect(asked).toBe(0);
		behindOf(context(-2), book, "k");
		expect(asked).toBe(1);
	});
});

describe("a table of the past as a file", () => {
	const COLUMNS: readonly Column[] = [
		{ label: "Won", kind: "share" },
		{ label: "Days", kind: "times" },
		{ label: "Amount", kind: "money" },
		{ label: "Deals", kind: "count" },
		{ label: "Lift", kind: "number" },
		{ label: "Off", kind: "percent" },
		{ label: "Lost", kind: "day" },
		{ label: "Back", kind: "comeBack" },
		{ label: "Finding", kind: "text" },
	];
	const times = {
		kind: "times",
		finished: 4,
		unfinished: 2,
		mean: 7.5,
		upTo: 14,
		median: 8,
		interval: { low: 5, high: null },
		curve: [],
		lasting: [],
		all: null,
	} as const;
	const cells: readonly Cell[] = [
		{ kind: "share", share: shareOf(7, 10), opens: "x" },
		times,
		{ kind: "money", minor: 123_45 },
		{ kind: "count", value: 3 },
		{ kind: "number", value: 1.234, digits: 2, unit: "" },
		{ kind: "percent", value: 0.0567 },
		{ kind: "day", iso: "2026-11-24" },
		{ kind: "comeBack", dealId: "d", day: "2027-01-04", back: null, title: "Follow up" },
		text("signals a miss", "2 of 3"),
	];
	const table = (rows: PatternTable["rows"]): PatternTable => ({ key: "t", title: "T", of: "Flag", columns: COLUMNS, rows, empty: "" });
	test("has the parts of each figure in columns of their own", () => {
		const content = contentOf(table([{ key: "a", name: "Overdue", cells }]), "EUR");
		expect(content.columns.map(({ label }) => label)).toEqual([
			"Flag",
			"Won",
			"Won: of",
			"Won: share",
			"Won: from",
			"Won: to",
			"Days: finished",
			"Days: under way",
			"Days: mean of the first days",
			"Days: first days",
			"Days: median",
			"Days: median from",
			"Days: median to",
			"Amount EUR",
			"Deals",
			"Lift",
			"Off",
			"Lost",
			"Back",
			"Follows up",
			"Finding",
		]);
		expect(content.rows[0]).toEqual([
			"Overdue",
			7,
			10,
			70,
			39.68,
			89.22,
			4,
			2,
			"7.5",
			"14",
			"8",
			"5",
			null,
			123_45,
			3,
			"1.23",
			5.67,
			"2026-11-24",
			"2027-01-04",
			null,
			"signals a miss (2 of 3)",
		]);
	});
	test("has empty cells where nothing is said, and a word in the place of a figure", () => {
		const none: readonly Cell[] = [
			{ kind: "share", share: shareOf(2, 4) },
			text("·"),
			{ kind: "money", minor: null },
			text("none"),
			{ kind: "number", value: null, digits: 1, unit: "d" },
			{ kind: "percent", value: null },
		];
		const [row] = contentOf(table([{ key: "a", name: "Slipped", cells: none }]), "EUR").rows;
		expect(row).toHaveLength(21);
		expect(row?.slice(1, 6)).toEqual([2, 4, null, null, null]);
		expect(row?.slice(6, 12)).toEqual([null, null, null, null, null, null]);
		expect(row?.slice(12)).toEqual([null, null, "none", null, null, null, null, null, null]);
	});
	test("can be read as CSV, whatever a reason is called", () => {
		const { columns, rows } = contentOf(table([{ key: "a", name: "=HYPERLINK(1)", cells }]), "EUR");
		const csv = new TextDecoder().decode(tableCsv(columns, rows));
		expect(csv.split("\n")).toHaveLength(3);
		expect(csv).toContain("'=HYPERLINK(1)");
	});
});

test("a cell is sorted by its figure, its day or its words, and by nothing where it says nothing", () => {
	const times = { finished: 1, unfinished: 0, mean: 4, upTo: 9, median: 3, interval: { low: null, high: null }, curve: [], lasting: [], all: null };
	const back = { kind: "comeBack", dealId: "d", day: "2026-12-01", title: "" } as const;
	const cells: Cell[] = [
		text("late"),
		text(""),
		{ kind: "count", value: 3 },
		{ kind: "number", value: 1.5, digits: 1, unit: "days" },
		{ kind: "percent", value: null },
		{ kind: "money", minor: 0 },
		{ kind: "share", share: { k: 1, n: 5, share: 0.2, low: 0, high: 1 } },
		{ kind: "times", ...times },
		{ kind: "deal", id: "d", name: "Ovens", account: "a" },
		{ kind: "day", iso: null },
		{ ...back, back: null },
		{ ...back, back: "2027-01-04" },
	];
	expect(cells.map(sortedBy)).toEqual(["late", null, 3, 1.5, null, 0, 0.2, 3, "Ovens", null, "2026-12-01", "2027-01-04"]);
});
