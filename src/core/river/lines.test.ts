import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { day, makeCompany, STAGES, type TestDeal } from "../../../tests/kit/company";
import { histories, RATES } from "../../../tests/kit/histories";
import { ledgerOf, riverColumns } from "./columns";
import { type WeekLine, weekLines } from "./lines";
import { river, weeksOf } from "./river";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const weeks = weeksOf(day("2026-11-02"), day("2026-11-24"));
const told = (deals: TestDeal[]) => {
	const company = makeCompany(deals, { rates: RATES });
	const columns = riverColumns(
		company,
		deals.map((_, i) => i),
		weeks[0]?.start ?? 0,
		weeks.at(-1)?.end ?? 0,
	);
	const found = river(ledgerOf(columns), weeks, Q4, null);
	return found.weeks.map((week) => ({ week, lines: weekLines(week, company.rules.stages) }));
};
const open = { at: "2026-10-20", amount: 100, close: "2026-12-01", stage: "Survey" };
const words = (versions: TestDeal["versions"]) => told([{ versions }]).flatMap(({ lines }) => lines.map((line) => `${line.deals.length} ${line.label}`));

describe("the week in words", () => {
	test("tells each thing that can happen to a deal", () => {
		expect(words([open, { at: "2026-11-10", stage: "Won" }])).toEqual(["1 won"]);
		expect(words([open, { at: "2026-11-10", stage: "Lost" }])).toEqual(["1 lost, from Survey"]);
		expect(words([open, { at: "2026-11-10", close: "2027-02-01" }])).toEqual(["1 pushed out"]);
		expect(words([open, { at: "2026-11-10", close: "2026-12-15" }])).toEqual(["1 pushed later, still in"]);
		expect(words([open, { at: "2026-11-10", close: "2026-09-01" }])).toEqual(["1 moved to an earlier period"]);
		expect(words([open, { at: "2026-11-10", stage: "Terms" }])).toEqual(["1 moved on from Survey to Terms"]);
		expect(words([open, { at: "2026-11-10", stage: "Enquiry" }])).toEqual(["1 stepped back from Survey to Enquiry"]);
		expect(words([open, { at: "2026-11-10", stage: "removed" }])).toEqual(["1 removed"]);
		expect(words([open, { at: "2026-11-10", amount: 90 }])).toEqual(["1 cut"]);
		expect(words([open, { at: "2026-11-10", amount: 110 }])).toEqual(["1 grown"]);
		expect(words([{ ...open, at: "2026-11-10" }])).toEqual(["1 new"]);
		expect(
			words([
				{ ...open, close: "2027-02-01" },
				{ at: "2026-11-10", close: "2026-12-01" },
			]),
		).toEqual(["1 pulled in"]);
		expect(
			words([
				{ ...open, close: "2026-09-01" },
				{ at: "2026-11-10", close: "2026-12-01" },
			]),
		).toEqual(["1 rolled in"]);
		expect(
			words([
				{ ...open, stage: "Lost" },
				{ at: "2026-11-10", stage: "Trial" },
			]),
		).toEqual(["1 reopened"]);
		expect(words([open])).toEqual([]);
	});
	test("a deal that came and was lost in one week is told as both", () => {
		expect(
			words([
				{ ...open, at: "2026-11-10 09:00" },
				{ at: "2026-11-12 09:00", stage: "Lost" },
			]),
		).toEqual(["1 lost, in the week they came", "1 new"]);
	});
	test("tells of every deal that did anything, and of no other", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				for (const { week, lines } of told(deals)) {
					const named = new Set(lines.flatMap((line) => line.deals.map((deal) => deal.deal)));
					const moved = week.moves.filter((move) => move.from !== move.to).flatMap((move) => move.deals);
					const did = [...week.steps.flatMap((step) => [...step.deals]), ...week.later, ...moved].map((deal) => deal.deal);
					expect([...named].sort()).toEqual([...new Set(did)].sort());
				}
			}),
		);
	});
	test("a line’s amount is the sum of its deals, and the signed lines lead from the week’s start to its end", () => {
		fc.assert(
			fc.property(histories, (deals) => {
				let before: number | null = null;
				for (const { week, lines } of told(deals)) {
					const sum = (line: WeekLine) => line.deals.reduce((all, deal) => all + deal.amount, 0);
					for (const line of lines) expect(sum(line)).toBe(line.amount);
					if (before !== null) expect(before + lines.reduce((all, line) => all + line.sign * line.amount, 0)).toBe(week.open);
					before = week.open;
				}
			}),
		);
	});
	test("names stages as the company does", () => {
		expect(STAGES).toContain("Survey");
		expect(
			weekLines({ ...(told([{ versions: [open, { at: "2026-11-10", stage: "Terms" }] }])[1] as ReturnType<typeof told>[number]).week }, [])[0]?.label,
		).toMatch(/^moved on/);
	});
});
