import fc from "fast-check";
import { expect, test } from "vitest";
import { columnOf, restoreLists, restoreRows, transpose, transposeLists, valuesOf } from "@/data/organisation/transposed";

const number = fc.oneof(fc.integer(), fc.double(), fc.constantFrom(Number.NaN, -0, 2 ** 31, -(2 ** 31), 2 ** 53));
const text = fc.constantFrom("", "null", "3", "Web", "Fair");

test("columns give back their values, whatever these are", () => {
	const value = fc.oneof(number, text, fc.constant(null), fc.boolean(), fc.array(text, { maxLength: 2 }), fc.record({ at: number }));
	for (const list of [
		[null, Number.NaN],
		[-0, null, 0, null],
		[undefined, null, null, undefined],
	])
		expect(Array.from(valuesOf(columnOf(list)))).toEqual(list);
	const numbers = fc.array(number, { maxLength: 3 });
	const kinds: fc.Arbitrary<unknown>[] = [
		number,
		text,
		value,
		fc.array(text, { maxLength: 2 }),
		fc.oneof(text, fc.constant(null)),
		numbers,
		fc.oneof(numbers, text),
	];
	for (const values of kinds) {
		fc.assert(
			fc.property(fc.array(values), (list) => {
				expect(Array.from(valuesOf(columnOf(list)))).toEqual(list);
			}),
		);
	}
});

test("objects and lists of them come back, field by field in their order", () => {
	const one = fc.record({ id: text, day: number, flags: fc.array(text, { maxLength: 2 }), former: fc.array(fc.record({ until: number })) });
	fc.assert(
		fc.property(fc.array(fc.array(one, { maxLength: 3 })), (lists) => {
			const again = restoreLists(transposeLists(lists));
			expect(again).toEqual(lists);
			expect(restoreRows(transpose(lists.flat()))).toEqual(lists.flat());
			expect(JSON.stringify(again)).toBe(JSON.stringify(lists));
		}),
	);
});
