import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Answer, LEVELS } from "../qualification/answer";
import { packAnswers } from "../qualification/answers";
import { packActivities } from "./activities";
import { type Activity, DIRECTIONS } from "./activity";

const activity: fc.Arbitrary<Activity> = fc.record({
	kind: fc.constantFrom("call", "visit", "email"),
	direction: fc.constantFrom(...DIRECTIONS),
	state: fc.constantFrom("planned" as const, "done" as const),
	at: fc.integer({ min: 0, max: 2_000_000_000_000 }),
	day: fc.integer({ min: 0, max: 30_000 }),
	contacts: fc.array(fc.constantFrom("c1", "c2", "c3"), { maxLength: 3 }),
	recorded: fc.integer({ min: 0, max: 30_000 }),
	plannedFor: fc.integer({ min: 0, max: 30_000 }),
	settled: fc.integer({ min: 0, max: 30_000 }),
	by: fc.integer({ min: -1, max: 30_000 }),
});
const answer: fc.Arbitrary<Answer> = fc.record({
	question: fc.integer({ min: -1, max: 40 }),
	level: fc.constantFrom(...LEVELS),
	at: fc.integer({ min: 0, max: 2_000_000_000_000 }),
	day: fc.integer({ min: 0, max: 30_000 }),
});

describe("what is kept of deals in columns", () => {
	test("comes out deal by deal as it went in, and goes in again", () => {
		fc.assert(
			fc.property(fc.array(fc.array(activity, { maxLength: 5 }), { maxLength: 6 }), (lists) => {
				const packed = packActivities(lists);
				expect(packed.map((one) => [...one])).toEqual(lists);
				expect(packed.map(({ length }) => length)).toEqual(lists.map(({ length }) => length));
				expect(JSON.stringify(packActivities([...packed].reverse()))).toBe(JSON.stringify([...lists].reverse()));
			}),
		);
	});
	test("answers too", () => {
		fc.assert(
			fc.property(fc.array(fc.array(answer, { maxLength: 5 }), { maxLength: 6 }), (lists) => {
				const packed = packAnswers(lists);
				expect(packed.map((one) => [...one])).toEqual(lists);
				expect(packed.map(({ length }) => length)).toEqual(lists.map(({ length }) => length));
				expect(JSON.stringify(packed)).toBe(JSON.stringify(lists));
			}),
		);
	});
});
