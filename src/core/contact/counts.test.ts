import fc from "fast-check";
import { expect, test } from "vitest";
import { NONE } from "../history/columns";
import { NO_DAY } from "../time/day";
import { activitiesOf } from "./activities";
import { type Activity, DIRECTIONS } from "./activity";
import { addedUp, contactCounts } from "./counts";

const PERIOD = { start: 10, end: 20 };
const one = (given: Partial<Activity>): Activity => ({
	kind: "call",
	direction: "out",
	state: "done",
	at: 0,
	day: 12,
	contacts: [],
	recorded: NO_DAY,
	plannedFor: NO_DAY,
	settled: NO_DAY,
	by: 0,
	...given,
});
const counted = (given: Partial<Activity>, seen = 15) => {
	const { done, undone } = contactCounts([activitiesOf([one(given)])], PERIOD, seen).get(0) ?? { done: 0, undone: 0 };
	return `${done} ${undone}`;
};

test("touches of the period’s days up to the day count, the first and the last of them too", () => {
	expect([9, 10, 15, 16].map((on) => counted({ day: on }))).toEqual(["0 0", "1 0", "1 0", "0 0"]);
	expect([20, 21].map((on) => counted({ day: on }, 30))).toEqual(["1 0", "0 0"]);
	expect(DIRECTIONS.map((direction) => counted({ direction }))).toEqual(["1 0", "1 0", "1 0", "0 0"]);
	expect([15, 16].map((recorded) => counted({ recorded }))).toEqual(["1 0", "0 0"]);
});

test("what was planned for a day before the one seen is undone, until it is done", () => {
	expect([9, 10, 14, 15].map((on) => counted({ state: "planned", day: on }))).toEqual(["0 0", "0 1", "0 1", "0 0"]);
	expect([20, 21].map((on) => counted({ state: "planned", day: on }, 30))).toEqual(["0 1", "0 0"]);
	// Planned for the 12th and done on the 14th: seen on the 13th it stands as planned, from the 14th on it counts on its day.
	const late = { plannedFor: 12, settled: 14, day: 14 };
	expect([12, 13, 14, 15].map((seen) => counted(late, seen))).toEqual(["0 0", "0 1", "1 0", "1 0"]);
});

test("it counts for who did it, and for nobody where that isn’t known", () => {
	const lists = [activitiesOf([one({ by: 1 }), one({ by: NONE }), one({ by: 2 })]), activitiesOf([one({ by: 1, state: "planned" })])];
	expect([...contactCounts(lists, PERIOD, 15)]).toEqual([
		[1, { done: 1, undone: 1 }],
		[2, { done: 1, undone: 0 }],
	]);
});

test("counts of parts add up to the counts of all", () => {
	const day = fc.integer({ min: 5, max: 25 });
	const some = fc.array(
		fc
			.record({
				by: fc.integer({ min: -1, max: 2 }),
				day,
				state: fc.constantFrom("done" as const, "planned" as const),
				recorded: day,
				settled: day,
				plannedFor: day,
			})
			.map(one),
	);
	fc.assert(
		fc.property(some, some, day, (first, second, seen) => {
			const sorted = (counts: ReturnType<typeof contactCounts>) => [...counts].sort(([a], [b]) => a - b);
			const parts = [first, second].map((list) => contactCounts([activitiesOf(list)], PERIOD, seen));
			expect(sorted(addedUp(parts))).toEqual(sorted(contactCounts([activitiesOf([...first, ...second])], PERIOD, seen)));
		}),
	);
});
