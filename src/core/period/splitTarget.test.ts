import { expect, test } from "vitest";
import { splitTarget } from "./splitTarget";

const whole = { start: 100, end: 191, amount: 92_000 };

test("what lies before a day and what lies after it add up to the target, by calendar days", () => {
	expect(splitTarget(whole, 161)).toEqual({ before: { start: 100, end: 160, amount: 61_000 }, after: { start: 161, end: 191, amount: 31_000 } });
	for (let day = 90; day < 200; day++)
		for (const amount of [0, 1, 7, 99_999]) {
			const { before, after } = splitTarget({ ...whole, amount }, day);
			expect((before?.amount ?? 0) + (after?.amount ?? 0)).toBe(amount);
			expect((before ? before.end - before.start + 1 : 0) + (after ? after.end - after.start + 1 : 0)).toBe(92);
		}
});

test("a day outside parts nothing", () => {
	expect(splitTarget(whole, 100)).toEqual({ before: null, after: whole });
	expect(splitTarget(whole, 192)).toEqual({ before: whole, after: null });
});
