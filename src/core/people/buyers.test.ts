import { expect, test } from "vitest";
import { buyersOn, buyersOnce } from "./buyers";

test("the buyers of a day are those of the last entry up to it; before the first there are none", () => {
	const entries = [
		{ since: 5, count: 1, signatory: false },
		{ since: 9, count: 2, signatory: true },
	];
	expect([4, 5, 8, 9, 99].map((day) => buyersOn(entries, day).count)).toEqual([0, 1, 1, 2, 2]);
	expect(buyersOn(entries, 9).signatory).toBe(true);
	expect([buyersOn(entries, 4), buyersOn([], 9), buyersOn(undefined, 9)]).toEqual(Array(3).fill({ count: 0, signatory: false }));
});

test("entries that say the same are kept once, where there is one alone", () => {
	const [one, same, other, none] = [
		[{ since: 3, count: 2, signatory: true }],
		[{ since: 3, count: 2, signatory: true }],
		[{ since: 3, count: 2, signatory: false }],
		[],
	];
	expect(buyersOnce(same)).toBe(buyersOnce(one));
	expect(buyersOnce(other)).toEqual(other);
	expect(buyersOnce(other)).not.toBe(buyersOnce(one));
	const two = [...one, { since: 9, count: 1, signatory: true }];
	expect(buyersOnce(two)).toBe(two);
	expect(buyersOnce(none)).toBe(none);
});
