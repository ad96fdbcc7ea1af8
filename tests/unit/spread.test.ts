import fc from "fast-check";
import { expect, test } from "vitest";
import { spreadOver } from "@/core/accounts/spread";

test("each account goes to one of them, the larger ones apart, and to one alone all of it", () => {
	const accounts = [
		{ id: "a", worth: 100 },
		{ id: "b", worth: 90 },
		{ id: "c", worth: 10 },
		{ id: "d", worth: 0 },
	];
	expect([...spreadOver(accounts, ["x", "y"])]).toEqual([
		["a", "x"],
		["b", "y"],
		["c", "y"],
		["d", "x"],
	]);
	expect([...spreadOver(accounts, ["x"]).values()]).toEqual(["x", "x", "x", "x"]);
	expect(spreadOver(accounts, []).size).toBe(0);
});

test("nobody has more than another by more than the largest, whatever there is; of what is worth nothing each gets as many", () => {
	const list = fc.array(fc.nat(1000), { maxLength: 40 });
	fc.assert(
		fc.property(list, fc.integer({ min: 1, max: 6 }), (worths, n) => {
			const people = Array.from({ length: n }, (_, i) => `p${i}`);
			const accounts = worths.map((worth, i) => ({ id: String(i), worth }));
			const given = spreadOver(accounts, people);
			expect(given.size).toBe(accounts.length);
			const sums = people.map((person) => accounts.reduce((sum, { id, worth }) => (given.get(id) === person ? sum + worth : sum), 0));
			expect(Math.max(...sums) - Math.min(...sums)).toBeLessThanOrEqual(Math.max(0, ...worths));
			const even = spreadOver(
				accounts.map(({ id }) => ({ id, worth: 0 })),
				people,
			);
			const counts = people.map((person) => [...even.values()].filter((one) => one === person).length);
			expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
			expect(spreadOver([...accounts].reverse(), people)).toEqual(new Map([...given]));
		}),
	);
});
