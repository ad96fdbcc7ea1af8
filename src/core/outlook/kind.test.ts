import { describe, expect, test } from "vitest";
import { day, makeCompany } from "../../../tests/kit/company";
import { NO_DAY } from "../time/day";
import { elsewhereKind, kindFrom, PLACES, type Place, placeOf } from "./kind";
import { kindWords, PLACE_WORDS, STEP_WORDS } from "./kindWords";

const { rules } = makeCompany([{ versions: [{ at: "2026-11-02 10:00", close: "2026-12-01" }] }]);
const Q4 = { start: day("2026-10-01"), end: day("2026-12-31") };

describe("where a close date lies that isn’t in the period", () => {
	test("is told from the 24th of November, 27 working days before the quarter’s end: soon after it is up to 49", () => {
		const lead = rules.calendar.between(day("2026-11-24"), Q4.end);
		const place = (close: number) => placeOf(rules, close, day("2026-11-24"), Q4, lead);
		const last = rules.calendar.add(day("2026-11-24"), lead + 22);
		expect([place(NO_DAY), place(day("2026-09-30")), place(Q4.start - 1)]).toEqual(["none", "before", "before"]);
		expect([place(Q4.end + 1), place(last), place(rules.calendar.add(last, 1)), place(day("2027-08-01"))]).toEqual(["next", "next", "later", "later"]);
	});
	test("of the period’s own first and last day is not before it", () => {
		const place = (close: number) => placeOf(rules, close, day("2026-11-24"), Q4, 27);
		expect(place(Q4.start)).not.toBe("before");
	});
});

describe("kinds", () => {
	test("are one object for the same values, and agree in their first values by their keys", () => {
		const one = kindFrom(true, ["1", "commit", "moving", "calm"]);
		expect(kindFrom(true, ["1", "commit", "moving", "calm"])).toBe(one);
		const other = kindFrom(true, ["1", "commit", "aging", "calm"]);
		expect(one.keys).toHaveLength(5);
		expect(one.keys.map((key, depth) => key === other.keys[depth])).toEqual([true, true, true, false, false]);
		// What is due and what is dated elsewhere never agree, nor do values that only read alike joined.
		expect(kindFrom(false, ["1", "commit"]).keys[0]).not.toBe(one.keys[0]);
		expect(kindFrom(true, ["12", "3", "moving", "calm"])).not.toBe(kindFrom(true, ["1", "23", "moving", "calm"]));
	});
	test("of deals that are dated elsewhere have a place, a stage and a size", () => {
		expect([elsewhereKind("next", 2, true).values, elsewhereKind("none", 0, false).values]).toEqual([
			["next", "2", "large"],
			["none", "0", "small"],
		]);
	});
	test("say in words what their deals have in common, so many values of it", () => {
		const due = (third: string) => kindWords({ rules }, kindFrom(true, ["1", "best_case", third, "watch"]), 4);
		const stage = rules.stages[1]?.name;
		expect(due("aging")).toEqual([`in ${stage}`, "best case", "longer than usual in the stage", "at watch"]);
		expect(due("moving")[2]).toBe("not longer than usual in the stage");
		expect(kindWords({ rules }, kindFrom(true, ["1", "commit", "moving", "calm"]), 2)).toEqual([`in ${stage}`, "commit"]);
		expect(kindWords({ rules }, kindFrom(true, ["99", "commit", "moving", "calm"]), 1)).toEqual(["in its stage"]);
		expect(kindWords({ rules }, elsewhereKind("next", 1, true), 3)).toEqual(["dated in the month after it", `in ${stage}`, "above the median amount"]);
		expect(kindWords({ rules }, elsewhereKind("none", 1, false), 3)[2]).toBe("up to the median amount");
	});
	test("have a word for each step and each place", () => {
		expect(STEP_WORDS.due).toEqual(["any deal due", "in its stage", "and category", "and time in stage", "and level"]);
		expect(STEP_WORDS.elsewhere).toEqual(["any deal dated elsewhere", "dated like it", "and in its stage", "and of its size"]);
		expect(PLACES.map((place: Place) => PLACE_WORDS[place])).toEqual([
			"without a close date",
			"dated before the period",
			"dated in the month after it",
			"dated later",
		]);
	});
});
