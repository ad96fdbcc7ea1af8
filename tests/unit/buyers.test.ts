import { expect, test } from "vitest";
import { buyersOn } from "@/core/people/buyers";
import { NO_DAY } from "@/core/time/day";
import { buyersThrough, outcomeOn } from "@/data/organisation/former";
import type { DealAttributes } from "@/data/organisation/state";

test("who is on a deal is known for each day by taking one change back after another", () => {
	const change = (day: number, contact: string, field: string, before: string | null) => ({ day, contact, field, before, role: null });
	// a from the beginning; b came on day 5; a became the one who decides on day 8; a left on day 9.
	const through = buyersThrough(
		[{ contact: "b", role: null }],
		[change(9, "a", "on_deal", "yes"), change(8, "a", "role", "user"), change(5, "b", "on_deal", "no")].map((one) =>
			one.contact === "a" ? { ...one, role: "decision_maker" } : one,
		),
	);
	expect([4, 5, 8, 9].map((day) => buyersOn(through, day)).map(({ count, signatory }) => [count, signatory])).toEqual([
		[1, false],
		[2, false],
		[2, true],
		[1, false],
	]);
	expect(through[0]?.since).toBe(NO_DAY);
	expect(buyersOn(undefined, 5)).toEqual({ count: 0, signatory: false });
});

test("competitor and reason of a day are those before the changes that came after it", () => {
	const deal = {
		competitor: "C",
		outcomeReason: "Price",
		former: [
			{ day: 9, field: "competitor", before: "B" },
			{ day: 9, field: "outcome_reason", before: null },
			{ day: 5, field: "competitor", before: null },
		],
	} as unknown as DealAttributes;
	expect([4, 5, 8, 9].map((day) => outcomeOn(deal, day))).toEqual([
		{ competitor: null, outcomeReason: null },
		{ competitor: "B", outcomeReason: null },
		{ competitor: "B", outcomeReason: null },
		{ competitor: "C", outcomeReason: "Price" },
	]);
});
