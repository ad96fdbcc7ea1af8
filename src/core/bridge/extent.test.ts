import fc from "fast-check";
import { expect, test } from "vitest";
import { day, inBlocks, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { formatDay } from "../time/day";
import { candidates, SEVERAL } from "./extent";

const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };
const due = (close: string | null, ...more: Partial<TestDeal["versions"][number]>[]): TestDeal => ({
	versions: [
		{ at: "2026-06-01", stage: "Enquiry", close, owner: 0 },
		...more.map((version) => ({ close, owner: 0, stage: "Enquiry", at: "2026-07-01", ...version })),
	],
});
const found = (deals: readonly TestDeal[], on: string) => candidates(makeCompany([...deals]), day(on), Q4).map(({ own }) => [...own]);

test("deals that weren’t due in the period since, or were closed months ago, are passed over", () => {
	const deals = [
		due("2026-10-01"),
		due("2026-12-31"),
		due("2026-09-30"),
		due("2027-01-01"),
		due(null),
		due("2026-09-30", { close: "2026-11-02" }),
		due("2026-11-02", { close: "2027-02-01" }),
		due("2026-11-02", { at: "2026-07-01", stage: "Lost" }),
		due("2026-11-02", { at: "2026-11-09", stage: "Won" }),
	];
	expect(found(deals, "2026-11-08")).toEqual([[0, 1, 5, 8]]);
});

test("places count from the start of each block, and what has gone leaves none", () => {
	expect(found(inBlocks([due("2026-11-02")], [due(null), due("2026-11-03")]), "2026-11-08")).toEqual([[0], [1]]);
});

test("the owner is said where all versions in force since have the same", () => {
	const deals = [
		due("2026-11-02"),
		due("2026-11-02", { owner: 1 }),
		due("2026-11-02", { at: "2026-11-20", owner: 1 }),
		due("2026-11-02", { at: "2026-11-20", owner: null }),
		{ versions: [{ at: "2026-06-01", close: "2026-11-02", owner: null }] },
	];
	const [block] = candidates(makeCompany(deals), day("2026-11-08"), Q4);
	expect([...(block?.owner ?? [])]).toEqual([0, 1, SEVERAL, SEVERAL, -1]);
	expect([...(block?.last ?? [])].map((last) => formatDay(last))).toEqual(["2026-06-01", "2026-07-01", "2026-11-20", "2026-11-20", "2026-06-01"]);
});

test("no deal is passed over that was open or changed after the day, whichever day that is", () => {
	fc.assert(
		fc.property(fc.integer({ min: -40, max: 40 }), fc.integer({ min: 0, max: 80 }), (asked, closed) => {
			const dayA = day("2026-11-08") + asked;
			const won = formatDay(day("2026-10-01") + closed);
			const [own = []] = [found([due("2026-11-02", { at: won, stage: "Won" })], formatDay(dayA))[0]];
			if (day(won) > dayA) expect(own).toEqual([0]);
		}),
	);
});
