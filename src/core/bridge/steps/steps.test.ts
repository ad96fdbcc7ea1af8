import { describe, expect, test } from "vitest";
import type { Standing } from "../step";
import { STEPS, WAYS_IN, WAYS_OUT } from ".";

/** Every way a deal can stand: gone, or of a kind, ours or not, due somewhere or nowhere. */
const kinds = ["open", "won", "lost"] as const;
const standings: Standing[] = [
	{ exists: false, kind: undefined, ours: false, close: "none" },
	...kinds.flatMap((kind) =>
		[true, false].flatMap((ours) => (["none", "before", "within", "after"] as const).map((close): Standing => ({ exists: true, kind, ours, close }))),
	),
];
/** What is in at a moment has neither come nor gone by then. */
const isIn = ({ kind, ours, close }: Standing) => kind === "open" && ours && close === "within";

describe("the steps", () => {
	test("of the ways in and of the ways out exactly one holds, however a deal that isn’t in stands", () => {
		for (const standing of standings.filter((one) => !isIn(one))) {
			expect([WAYS_IN.filter((way) => way.holds(standing)).length, WAYS_OUT.filter((way) => way.holds(standing)).length], JSON.stringify(standing)).toEqual([
				1, 1,
			]);
		}
	});
	test("none of them holds of a deal that is in", () => {
		for (const standing of standings.filter(isIn)) expect([...WAYS_IN, ...WAYS_OUT].some((way) => way.holds(standing))).toBe(false);
	});
	test("have kinds and names of their own", () => {
		for (const of of [STEPS.map((step) => step.kind), STEPS.map((step) => step.words.name)]) expect(new Set<string>(of).size).toBe(STEPS.length);
	});
});
