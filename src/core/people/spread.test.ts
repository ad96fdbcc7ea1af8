import { expect, test } from "vitest";
import { spread } from "./spread";

test("the largest goes first, and always to the one who has least", () => {
	const things = [5, 3, 1].map((amount, i) => ({ id: "abc"[i] as string, amount }));
	expect([...spread(things, ["x", "y"])]).toEqual([
		["a", "x"],
		["b", "y"],
		["c", "y"],
	]);
	expect(spread(things, []).size).toBe(0);
});

test("everything goes to somebody, and nobody has more above another than the largest is worth", () => {
	let seed = 7;
	const random = () => {
		seed = (seed * 48_271) % 2_147_483_647;
		return seed;
	};
	for (let round = 0; round < 200; round++) {
		const things = Array.from({ length: random() % 40 }, (_, i) => ({ id: `d${i}`, amount: random() % 10_000 }));
		const people = Array.from({ length: 1 + (random() % 5) }, (_, i) => `p${i}`);
		const given = spread(things, people);
		expect(given.size).toBe(things.length);
		const sums = people.map((person) => things.reduce((sum, { id, amount }) => sum + (given.get(id) === person ? amount : 0), 0));
		expect(sums.reduce((a, b) => a + b, 0)).toBe(things.reduce((sum, { amount }) => sum + amount, 0));
		const largest = Math.max(0, ...things.map(({ amount }) => amount));
		expect(Math.max(...sums) - Math.min(...sums)).toBeLessThanOrEqual(largest);
	}
});

test("things of one worth go in the order of their ids, whatever order they came in", () => {
	const given = (...ids: string[]) => [
		...spread(
			ids.map((id) => ({ id, amount: 4 })),
			["x", "y"],
		),
	];
	expect(given("b", "a")).toEqual([
		["a", "x"],
		["b", "y"],
	]);
	expect(given("a", "b")).toEqual(given("b", "a"));
	const mixed = [
		{ id: "small", amount: 1 },
		{ id: "large", amount: 9 },
		{ id: "middle", amount: 5 },
	];
	expect([...spread(mixed, ["x", "y"])]).toEqual([
		["large", "x"],
		["middle", "y"],
		["small", "y"],
	]);
});
