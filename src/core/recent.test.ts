import fc from "fast-check";
import { expect, test } from "vitest";
import { recent } from "./recent";

test("what was made of the objects asked about last is the same; of those before it is made again", () => {
	let made = 0;
	const numberOf = recent((_: object) => ++made, 2);
	const [a, b, c, d] = [{}, {}, {}, {}];
	expect([numberOf(a), numberOf(a), numberOf(b), numberOf(a)]).toEqual([1, 1, 2, 1]);
	expect([numberOf(c), numberOf(d), numberOf(c)]).toEqual([3, 4, 3]);
	expect([numberOf(a), numberOf(a)]).toEqual([5, 5]);
});

test("it says the same as what makes it, in whatever order it is asked", () => {
	const objects = Array.from({ length: 12 }, (_, value) => ({ value }));
	fc.assert(
		fc.property(fc.array(fc.nat(11)), fc.integer({ min: 1, max: 6 }), (asked, most) => {
			let made = 0;
			const told = recent(({ value }: { value: number }) => {
				made++;
				return value;
			}, most);
			expect(asked.map((i) => told(objects[i] as { value: number }))).toEqual(asked);
			expect(made).toBeLessThanOrEqual(asked.length);
			if (new Set(asked).size <= most) expect(made).toBe(new Set(asked).size);
		}),
	);
});

test("what is made may be undefined, and is kept all the same", () => {
	let made = 0;
	const nothing = recent((_: object) => {
		made++;
	}, 4);
	const one = {};
	nothing(one);
	nothing(one);
	expect(made).toBe(1);
});
