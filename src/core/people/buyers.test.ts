import { expect, test } from "vitest";
import { buyersOn } from "./buyers";

test("the buyers of a day are those of the last entry up to it; before the first there are none", () => {
	const entries = [
		{ since: 5, count: 1, signatory: false },
		{ since: 9, count: 2, signatory: true },
	];
	expect([4, 5, 8, 9, 99].map((day) => buyersOn(entries, day).count)).toEqual([0, 1, 1, 2, 2]);
	expect(buyersOn(entries, 9).signatory).toBe(true);
	expect([buyersOn(entries, 4), buyersOn([], 9), buyersOn(undefined, 9)]).toEqual(Array(3).fill({ count: 0, signatory: false }));
});
