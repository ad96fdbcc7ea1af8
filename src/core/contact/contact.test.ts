import { describe, expect, test } from "vitest";
import { day, makeCompany, type TestDeal } from "../../../tests/kit/company";
import { NO_DAY } from "../time/day";
import { type Activity, contactOf, inTime, isTouch } from "./contact";

const contact = (activities: TestDeal["activities"], iso: string) => {
	const company = makeCompany([{ versions: [{ at: "2026-01-05" }], activities: activities ?? [] }]);
	return contactOf(company.deals[0]?.activities ?? [], day(iso));
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
		id: "a",
		kind: "call",
		direction: "both",
		state: "done",
		at: day(given.on) * 86_400_000,
		day: day(given.on),
		contacts: [],
		recorded: NO_DAY,
		plannedFor: NO_DAY,
		settled: NO_DAY,
		...given,
	});
	const seen = day("2026-03-10");
	test("is an activity that was written down later: from the day it was on", () => {
		const late = one({ on: "2026-03-06", recorded: day("2026-03-11") });
		expect(contactOf([late], seen).lastTouch).toBe(NO_DAY);
		expect(contactOf([late], seen + 1).lastTouch).toBe(day("2026-03-06"));
		expect(contactOf([{ ...late, recorded: seen }], seen).lastTouch).toBe(day("2026-03-06"));
	});
	test("is that a planned one was done: until it was said it is still planned, if its day hasn’t passed", () => {
		const settled = one({ on: "2026-03-09", plannedFor: day("2026-03-10"), settled: day("2026-03-12") });
		expect(contactOf([settled], seen)).toMatchObject({ lastTouch: NO_DAY, planned: true });
		expect(contactOf([settled], seen + 1)).toMatchObject({ lastTouch: NO_DAY, planned: false });
		expect(contactOf([settled], day("2026-03-12"))).toMatchObject({ lastTouch: day("2026-03-09"), planned: false });
	});
	test("is what is dated after it", () => {
		expect(contactOf([one({ on: "2026-03-10" })], seen).lastTouch).toBe(seen);
		expect(contactOf([one({ on: "2026-03-11" })], seen).lastTouch).toBe(NO_DAY);
		expect(contactOf([one({ on: "2026-03-10", state: "planned" })], seen).planned).toBe(true);
		expect(contactOf([one({ on: "2026-03-09", state: "planned" })], seen).planned).toBe(false);
	});
	test("doesn’t hang on the order of what came at one instant: the higher id is the later", () => {
		const [a, b] = [one({ on: "2026-03-06", id: "a", direction: "in" }), one({ on: "2026-03-06", id: "b", direction: "out" })];
		for (const list of [
			[a, b],
			[b, a],
		]) {
			expect(contactOf(list, seen).waiting).toEqual({ side: "we", since: day("2026-03-06") });
			expect([...list].sort(inTime).map(({ id }) => id)).toEqual(["a", "b"]);
		}
		expect(inTime(a, { ...a })).toBe(0);
		expect(inTime({ ...b, at: b.at - 1 }, a)).toBeLessThan(0);
	});
	test("a two-way contact is the newest of theirs, whatever we sent after it; a note of ours is no touch", () => {
		const list = [
			one({ on: "2026-03-06", id: "c", direction: "in" }),
			one({ on: "2026-03-02", id: "a", direction: "both" }),
			one({ on: "2026-03-09", id: "d", direction: "out" }),
		];
		expect(contactOf(list, seen)).toMatchObject({ lastTouch: day("2026-03-09"), lastTwoWay: day("2026-03-06") });
		expect([one({ on: "2026-03-06" }), one({ on: "2026-03-06", direction: "none" }), one({ on: "2026-03-06", state: "planned" })].map(isTouch)).toEqual([
			true,
			false,
			false,
		]);
	});
});
