import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { NONE } from "../history/columns";
import { NO_DAY } from "../time/day";
import { activitiesOf, isTouchAt, NO_ACTIVITIES } from "./activities";
import type { Activity } from "./activity";
import { contactOf } from "./contact";

const contact = (activities: TestDeal["activities"], iso: string) => {
	const company = makeCompany([{ versions: [{ at: "2026-01-05" }], activities: activities ?? [] }]);
	return contactOf(company.deals[0]?.activities ?? NO_ACTIVITIES, day(iso));
};

describe("contact", () => {
	test("they are waiting for us since the day they wrote, until we answer", () => {
		const written: TestDeal["activities"] = [
			["2026-03-02", "both"],
			["2026-03-06", "in"],
		];
		expect(contact(written, "2026-03-10").waiting).toEqual({ side: "they", since: day("2026-03-06") });
		expect(contact([...written, ["2026-03-09", "out"]], "2026-03-10").waiting).toEqual({ side: "we", since: day("2026-03-09") });
		expect(contact([...written, ["2026-03-09", "both"]], "2026-03-10").waiting).toBeNull();
	});
	test("internal notes and planned activities are no contact", () => {
		const seen = contact(
			[
				["2026-03-02", "out"],
				["2026-03-06", "none"],
				["2026-03-05", "both", "planned"],
			],
			"2026-03-10",
		);
		expect(seen).toMatchObject({ lastTouch: day("2026-03-02"), lastTwoWay: NO_DAY, planned: false });
	});
	test("what is planned from the seen day on counts as planned", () => {
		expect(contact([["2026-03-10", "both", "planned"]], "2026-03-10").planned).toBe(true);
		expect(contact([["2026-03-10", "both", "planned"]], "2026-03-11").planned).toBe(false);
	});
	test("what happened later isn’t seen", () => {
		expect(
			contact(
				[
					["2026-03-02", "in"],
					["2026-03-09", "out"],
				],
				"2026-03-08",
			).waiting?.side,
		).toBe("they");
		expect(contact([["2026-03-09", "out"]], "2026-03-08").lastTouch).toBe(NO_DAY);
	});
});

describe("what wasn’t known yet on the seen day", () => {
	const one = (given: Partial<Activity> & { on: string }): Activity => ({
		kind: "call",
		direction: "both",
		state: "done",
		at: day(given.on) * 86_400_000,
		day: day(given.on),
		contacts: [],
		recorded: NO_DAY,
		plannedFor: NO_DAY,
		by: NONE,
		settled: NO_DAY,
		...given,
	});
	const seen = day("2026-03-10");
	test("is an activity that was written down later: from the day it was on", () => {
		const late = one({ on: "2026-03-06", recorded: day("2026-03-11") });
		expect(contactOf(activitiesOf([late]), seen).lastTouch).toBe(NO_DAY);
		expect(contactOf(activitiesOf([late]), seen + 1).lastTouch).toBe(day("2026-03-06"));
		expect(contactOf(activitiesOf([{ ...late, recorded: seen }]), seen).lastTouch).toBe(day("2026-03-06"));
	});
	test("is that a planned one was done: until it was said it is still planned, if its day hasn’t passed", () => {
		const settled = one({ on: "2026-03-09", plannedFor: day("2026-03-10"), settled: day("2026-03-12") });
		expect(contactOf(activitiesOf([settled]), seen)).toMatchObject({ lastTouch: NO_DAY, planned: true });
		expect(contactOf(activitiesOf([settled]), seen + 1)).toMatchObject({ lastTouch: NO_DAY, planned: false });
		expect(contactOf(activitiesOf([settled]), day("2026-03-12"))).toMatchObject({ lastTouch: day("2026-03-09"), planned: false });
	});
	test("is what is dated after it", () => {
		expect(contactOf(activitiesOf([one({ on: "2026-03-10" })]), seen).lastTouch).toBe(seen);
		expect(contactOf(activitiesOf([one({ on: "2026-03-11" })]), seen).lastTouch).toBe(NO_DAY);
		expect(contactOf(activitiesOf([one({ on: "2026-03-10", state: "planned" })]), seen).planned).toBe(true);
		expect(contactOf(activitiesOf([one({ on: "2026-03-09", state: "planned" })]), seen).planned).toBe(false);
	});
	test("of two at one instant the one with the higher id, which stands further down, is the later", () => {
		const [a, b] = [one({ on: "2026-03-06", direction: "in" }), one({ on: "2026-03-06", direction: "out" })];
		expect(contactOf(activitiesOf([a, b]), seen).waiting).toEqual({ side: "we", since: day("2026-03-06") });
		expect(contactOf(activitiesOf([b, a]), seen).waiting).toEqual({ side: "they", since: day("2026-03-06") });
		// The later instant counts before the id.
		expect(contactOf(activitiesOf([{ ...b, at: b.at - 1 }, a]), seen).waiting).toEqual({ side: "they", since: day("2026-03-06") });
	});
	test("a two-way contact is the newest of theirs, whatever we sent after it; a note of ours is no touch", () => {
		const list = [one({ on: "2026-03-06", direction: "in" }), one({ on: "2026-03-02", direction: "both" }), one({ on: "2026-03-09", direction: "out" })];
		expect(contactOf(activitiesOf(list), seen)).toMatchObject({ lastTouch: day("2026-03-09"), lastTwoWay: day("2026-03-06") });
		const { columns } = activitiesOf([one({ on: "2026-03-06" }), one({ on: "2026-03-06", direction: "none" }), one({ on: "2026-03-06", state: "planned" })]);
		expect([0, 1, 2].map((row) => isTouchAt(columns, row))).toEqual([true, false, false]);
	});
});
