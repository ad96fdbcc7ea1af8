import fc from "fast-check";
import { expect, test } from "vitest";
import { day } from "../../../tests/kit/company";
import { makeCalendar } from "../time/calendar";
import { NO_DAY } from "../time/day";
import { turnsOf, type Waits } from "./turns";

const calendar = makeCalendar([0, 6], []);
const D = day("2026-11-24");
const waits = (id: string, side: Waits["side"], since: string, planned: string | null = null): Waits => ({
	id,
	side,
	since: day(since),
	planned: planned ? day(planned) : NO_DAY,
});

test("they wait first, then whom to ask again, then the rest; each the longest first", () => {
	const turns = turnsOf(
		[
			waits("later", "we", "2026-10-01", "2026-11-25"),
			waits("fresh", "we", "2026-11-18"),
			waits("five", "we", "2026-11-17"),
			waits("planned", "we", "2026-11-20", "2026-11-24"),
			waits("theirs", "they", "2026-11-23"),
			waits("theirs longer", "they", "2026-11-02"),
		],
		D,
		calendar,
	);
	expect(turns.map(({ waits: { id }, workingDays, due }) => [id, workingDays, due])).toEqual([
		["theirs longer", 16, true],
		["theirs", 1, true],
		["five", 5, true],
		["planned", 2, true],
		["later", 38, false],
		["fresh", 4, false],
	]);
	expect(turns.map(({ askAgain }) => askAgain)).toEqual([null, null, D, D, D + 1, D + 1]);
});

test("whatever the order they come in, all are there once and the order is the same", () => {
	const one = fc.record({
		id: fc.string(),
		side: fc.constantFrom("they" as const, "we" as const),
		since: fc.integer({ min: D - 60, max: D }),
		planned: fc.oneof(fc.constant(NO_DAY), fc.integer({ min: D - 5, max: D + 9 })),
	});
	fc.assert(
		fc.property(fc.uniqueArray(one, { selector: ({ id }) => id }), (all) => {
			const ids = (list: readonly Waits[]) => turnsOf(list, D, calendar).map(({ waits: { id } }) => id);
			expect(ids([...all].reverse())).toEqual(ids(all));
			expect([...ids(all)].sort()).toEqual(all.map(({ id }) => id).sort());
		}),
	);
});
