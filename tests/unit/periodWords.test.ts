import { describe, expect, test } from "vitest";
import { nothingCounted } from "@/core/period/counted";
import { figuresOf } from "@/core/period/figures";
import type { Move } from "@/core/period/try";
import { periodHeadline } from "@/features/period/server/headline";
import { FIGURES, figureOf } from "@/features/period/table/figures";
import { changeWords, figureWords } from "@/features/period/table/figureWords";
import { moveWords } from "@/features/period/ui/moveWords";
import { day } from "../kit/company";

const period = { start: day("2026-10-01"), end: day("2026-12-31") };
const pace = { workingDay: 39, workingDays: 66, previous: 1_000_000_00, yearAgo: 500_000_00, previousWords: "Jul–Sep 2026" };
const sum = (amount: number, count = 1) => ({ count, amount });
const told = (won: number, open: number, target: number | null, state: "running" | "over" | "to come" = "running", commit = 0) => {
	const counted = nothingCounted();
	const figures = figuresOf(
		{ ...counted, won: sum(won, won ? 3 : 0), open: sum(open, open ? 4 : 0), categories: { ...counted.categories, commit: sum(commit) } },
		target,
	);
	return periodHeadline({ figures, period, state, currency: "EUR", pace });
};

describe("the headline of a period", () => {
	test("says what is won, what is missing, and the share of what is open that has to be won", () => {
		expect(told(1_220_000_00, 4_110_000_00, 3_100_000_00).finding).toBe(
			"€1.22m of €3.10m is won. €1.88m is missing, and €4.11m is open: 46% of it has to be won",
		);
	});
	test("says when all that is open wouldn’t do, when nothing is open, and when the target is reached", () => {
		expect(told(1_000_000_00, 500_000_00, 3_000_000_00).finding).toBe(
			"€1.00m of €3.00m is won. €2.00m is missing, and €500k is open: winning all of it would leave €1.50m missing",
		);
		expect(told(1_000_000_00, 0, 3_000_000_00).finding).toContain("and nothing is open");
		expect(told(3_500_000_00, 100_000_00, 3_000_000_00).finding).toBe("€3.50m is won: the target of €3.00m is reached, and €100k is still open");
	});
	test("without a target says so, and holds it against the same working day before", () => {
		const { finding, beside } = told(1_000_000_00, 500_000_00, null);
		expect(finding).toBe("€1.00m is won and €500k is open; nobody here has a target");
		expect(beside).toBe("On working day 39 of 66; by the same day €1.00m was won of Jul–Sep 2026, and €500k a year ago.");
		expect(told(1, 1, 100, "running", 50).beside).toContain("Commit alone covers the gap 0.5 times.");
	});
	test("of one that is over, to come or empty is told as such", () => {
		expect(told(2_900_000_00, 0, 3_100_000_00, "over")).toEqual({
			finding: "€2.90m was won in Oct–Dec 2026: 94% of the target of €3.10m",
			beside: "No deals due in it are still open.",
		});
		expect(told(1_00, 2_000_00, null, "over").beside).toBe("4 deals due in it are still open, €2k.");
		expect(told(0, 2_000_000_00, 1_000_000_00, "to come")).toMatchObject({
			finding: "€2.00m is open for Oct–Dec 2026, against a target of €1.00m",
			beside: expect.stringContaining("2.0 times"),
		});
		expect(told(0, 2_000_000_00, null, "to come")).toEqual({
			finding: "€2.00m is open for Oct–Dec 2026; no one has a target for it yet",
			beside: "It hasn’t started.",
		});
		expect(told(0, 0, null).finding).toBe("Nothing won or open in Oct–Dec 2026");
		expect(told(1_00, 0, null).finding).toBe("€1 is won and €0 is open; nobody here has a target");
		expect(told(0, 1_00, null).finding).toBe("Nothing is won yet and €1 is open; nobody here has a target");
	});
});

describe("figures", () => {
	test("each have a name of their own, and are read as their unit is", () => {
		expect(new Set(FIGURES.map(({ key }) => key)).size).toBe(FIGURES.length);
		expect(new Set(FIGURES.map(({ label }) => label)).size).toBe(FIGURES.length);
		const figures = figuresOf({ ...nothingCounted(), won: sum(300_00, 2), lost: sum(100_00) }, 1000_00);
		const around = { overdue: 3, lateTasks: 2, contacts: { done: 78, aDay: 2, undone: 1 } };
		const words = (key: string) => figureWords(figureOf(key)?.value(figures, around) ?? null, figureOf(key)?.unit ?? "count", "EUR");
		expect(["won", "gap", "winRate", "overdue", "lateTasks", "contactsADay", "undone", "cover", "averageCycle"].map(words)).toEqual([
			"€300",
			"€700",
			"67%",
			"3",
			"2",
			"2.0",
			"1",
			"0.0",
			"0.0 d",
		]);
		expect(figureOf("mood")).toBeUndefined();
	});
	test("changes are told with their sign, and none where nothing changed", () => {
		expect([
			changeWords(619_000_00, "amount", "EUR"),
			changeWords(-2, "count", "EUR"),
			changeWords(0.041, "share", "EUR"),
			changeWords(-0.26, "times", "EUR"),
		]).toEqual(["+€619k", "−2", "+4 points", "−0.3"]);
		// what reads the same has not changed for a reader
		expect([changeWords(0.004, "share", "EUR"), changeWords(-0.04, "times", "EUR"), changeWords(0.01, "share", "EUR")]).toEqual(["", "", "+1 point"]);
		expect([changeWords(0, "count", "EUR"), changeWords(null, "amount", "EUR")]).toEqual(["", ""]);
	});
});

test("a move reads as a sentence, of one deal or of a group, whole or by share", () => {
	const name = (id: string) => `Deal ${id}`;
	const words = (field: Move["whom"]["field"], value: string, what: Move["what"], percent = 100) =>
		moveWords({ whom: { field, value } as Move["whom"], what, percent }, name);
	expect(words("deal", "7", "push")).toBe("Deal 7 is pushed out of the period");
	expect(words("deal", "7", "price", 90)).toBe("Deal 7 is priced at 90%");
	expect(words("category", "best_case", "win", 40)).toBe("40% of all best case are won");
	expect(words("flag", "no-signatory", "drop")).toBe("all with no signatory are dropped");
	expect(words("stage", "Terms", "win")).toBe("all in Terms are won");
	expect(words("level", "act", "drop")).toBe("all at act are dropped");
	expect(words("owner", "Ann", "price", 110)).toBe("all of Ann are priced at 110%");
});
