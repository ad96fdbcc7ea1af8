import fc from "fast-check";
import { describe, expect, test, vi } from "vitest";
import { joined } from "./joined";
import { merged } from "./merged";

const byNumber = (a: { n: number }, b: { n: number }) => a.n - b.n;

describe("sorted lists as one", () => {
	test("are the first of what sorting all of them gives, equals in the order of the lists", () => {
		fc.assert(
			fc.property(fc.array(fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 6 }), { maxLength: 9 }), fc.nat(40), (numbers, most) => {
				const lists = numbers.map((own, list) => own.map((n) => ({ n, list })).sort(byNumber));
				expect(merged(lists, "test sorted", byNumber, most)).toEqual(lists.flat().sort(byNumber).slice(0, most));
				expect(joined(lists)).toEqual(lists.flat());
			}),
		);
	});
	test("are merged again only where one of them changed", () => {
		const lists = Array.from({ length: 64 }, (_, n) => [{ n: n % 7 }]);
		const compare = vi.fn(byNumber);
		merged(lists, "test merged", compare, 100);
		compare.mockClear();
		expect(merged(lists, "test merged", compare, 100)).toHaveLength(64);
		expect(compare).not.toHaveBeenCalled();
		lists[5] = [{ n: 3 }];
		merged(lists, "test merged", compare, 100);
		// Of 64 lists 2 are merged again, 4, 8, … and 64.
		expect(compare.mock.calls.length).toBeLessThan(2 + 4 + 8 + 16 + 32 + 64);
	});
});
