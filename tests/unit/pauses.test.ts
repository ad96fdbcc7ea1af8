import { expect, test } from "vitest";
import { nextPause, pauses } from "../../scripts/lib/pauses.mjs";

test("what ends again and again waits twice as long each time, up to a minute, and starts over once it has run well", () => {
	const waits: number[] = [];
	for (let last = 0; waits.length < 10; ) {
		last = nextPause(last, 1000);
		waits.push(last);
	}
	expect(waits).toEqual([500, 1000, 2000, 4000, 5000, 5000, 5000, 5000, 5000, 5000]);
	expect(nextPause(60_000, 60_000)).toBe(500);
	const own = pauses();
	own.began();
	expect([own.next(), own.next()]).toEqual([500, 1000]);
});
