import { describe, expect, test } from "vitest";
import { STAGES } from "../../../tests/kit/company";
import { missing, needsOf } from "./needs";
import type { DealState } from "./state";

const stages = STAGES.map((name) => ({ name, kind: name === "Won" ? ("won" as const) : name === "Lost" ? ("lost" as const) : ("open" as const) }));
type Part = Pick<DealState, "stage" | "closeDate">;
const open: Part = { stage: "Terms", closeDate: "2026-12-01" };
const needs = (change: Partial<Part>, before: Part = open) => needsOf(before, change, stages).map(({ name }) => name);

describe("what an edit needs", () => {
	test("is a day for a win, a reason and a rival for a loss, a why for a push", () => {
		expect(needs({ stage: "Won" })).toEqual(["closedOn"]);
		expect(needs({ stage: "Lost" })).toEqual(["outcomeReason", "competitor"]);
		expect(needs({ closeDate: "2026-12-02" })).toEqual(["reason"]);
	});
	test("is nothing for what isn’t a push: an earlier or the same day, a first or a blank one, another stage", () => {
		expect([needs({ closeDate: "2026-11-30" }), needs({ closeDate: "2026-12-01" }), needs({ closeDate: null }), needs({ stage: "Survey" }), needs({})]).toEqual(
			[[], [], [], [], []],
		);
		expect(needs({ closeDate: "2026-12-02" }, { stage: "Terms", closeDate: null })).toEqual([]);
	});
	test("is nothing for what was closed so before; and a push of a deal that is closed is none", () => {
		expect([needs({ closeDate: "2026-12-02" }, { stage: "Won", closeDate: "2026-12-01" }), needs({ stage: "Won" }, { stage: "Won", closeDate: null })]).toEqual(
			[[], []],
		);
		expect(needs({ stage: "Lost" }, { stage: "Won", closeDate: null })).toEqual(["outcomeReason", "competitor"]);
		expect(needs({ stage: "Won", closeDate: "2026-12-09" })).toEqual(["closedOn"]);
	});
	test("is asked for in words, and all but the rival has to be given", () => {
		const all = [
			...needsOf(open, { stage: "Won" }, stages),
			...needsOf(open, { stage: "Lost" }, stages),
			...needsOf(open, { closeDate: "2026-12-02" }, stages),
		];
		expect(all.map(({ name, question, label, must }) => [name, question, label, must])).toEqual([
			["closedOn", "On which day was it won?", "Won on", true],
			["outcomeReason", "Why was it lost?", "Why was it lost?", true],
			["competitor", "To whom was it lost?", "To whom? (blank: to nobody)", false],
			["reason", "Why does it close later?", "Why does it close later?", true],
		]);
	});
	test("is met by words; a rival may be said to be none, but has to be said", () => {
		const lost = needsOf(open, { stage: "Lost" }, stages);
		const left = (given: Parameters<typeof missing>[1]) => missing(lost, given).map(({ name }) => name);
		expect(left({})).toEqual(["outcomeReason", "competitor"]);
		expect(left({ outcomeReason: "", competitor: null })).toEqual(["outcomeReason"]);
		expect(left({ outcomeReason: "Price", competitor: "Other & Co" })).toEqual([]);
		expect(left({ outcomeReason: "Price" })).toEqual(["competitor"]);
	});
});
