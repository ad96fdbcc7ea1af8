import { describe, expect, test } from "vitest";
import { NO_DAY } from "../time/day";
import { attentionOf } from "./attention";
import { holdsOn, type Rest, resting, restOn, strangerOf } from "./rest";

const rest = (given: Partial<Rest> = {}): Rest => ({
	id: "r",
	from: 10,
	until: 20,
	ended: NO_DAY,
	flags: ["stalled", "slipped"],
	by: 0,
	reason: "known",
	...given,
});
const lit = (...codes: string[]) => codes.map((code) => ({ code }));

describe("a rest", () => {
	test("holds from its first day until the day before its last", () => {
		expect([9, 10, 19, 20].map((day) => holdsOn(rest(), day))).toEqual([false, true, true, false]);
		expect(restOn([rest()], lit("stalled"), 15)?.id).toBe("r");
		expect(restOn([rest()], lit("stalled"), 20)).toBeNull();
	});
	test("is over while a flag is lit that wasn’t when it was given, and holds with fewer of them", () => {
		expect(restOn([rest()], lit("stalled", "reply-owed"), 15)).toBeNull();
		expect(strangerOf(rest(), lit("stalled", "reply-owed"))).toEqual({ code: "reply-owed" });
		expect(restOn([rest()], [], 15)?.id).toBe("r");
	});
	test("that was ended before its time holds only before that day, and the newest of several is told", () => {
		expect([11, 12].map((day) => restOn([rest({ ended: 12 })], [], day)?.id ?? null)).toEqual(["r", null]);
		expect(restOn([rest({ id: "older" }), rest({ id: "newer", from: 12 })], [], 13)?.id).toBe("newer");
		expect(restOn([rest({ id: "older" }), rest({ id: "newer", from: 12 })], [], 11)?.id).toBe("older");
	});
	test("takes a deal’s level away and leaves its parts and its score", () => {
		const calendar = { between: () => 5 } as never;
		const attention = attentionOf(
			[
				{ code: "a", severity: 3 },
				{ code: "b", severity: 3 },
			],
			900,
			100,
			15,
			10,
			calendar,
			{},
		);
		expect(attention.level).toBe("act");
		expect(resting(attention)).toEqual({ ...attention, level: "calm" });
	});
});
