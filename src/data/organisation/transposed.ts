/** Objects of one shape as one list of values for each of their fields: read back several times as fast as the objects would be. */
export interface Transposed {
	readonly count: number;
	readonly fields: Readonly<Record<string, readonly unknown[]>>;
}

/**
 * Objects of one shape by field.
 *
 * @example transpose([{ a: 1, b: 2 }, { a: 3, b: 4 }]).fields // { a: [1, 3], b: [2, 4] }
 */
export function transpose(objects: readonly object[]): Transposed {
	const names = Object.keys(objects[0] ?? {});
	return { count: objects.length, fields: Object.fromEntries(names.map((name) => [name, objects.map((one) => (one as Record<string, unknown>)[name])])) };
}

/**
 * The objects again, their fields in the same order.
 *
 * @example restoreRows({ count: 2, fields: { a: [1, 3], b: [2, 4] } }) // [{ a: 1, b: 2 }, { a: 3, b: 4 }]
 */
export function restoreRows<T extends object>({ count, fields }: Transposed): T[] {
	const columns = Object.entries(fields);
	return Array.from({ length: count }, (_, i) => {
		const one: Record<string, unknown> = {};
		for (const [name, values] of columns) one[name] = values[i];
		return one as T;
	});
}

/** Lists of objects of one shape, most of them short or empty: how long each is, and all objects by field. */
export interface TransposedLists {
	readonly lengths: readonly number[];
	readonly all: Transposed;
}

/** @example transposeLists([[{ a: 1 }], [], [{ a: 3 }]]).lengths // [1, 0, 1] */
export const transposeLists = (lists: readonly (readonly object[])[]): TransposedLists => ({
	lengths: lists.map(({ length }) => length),
	all: transpose(lists.flat()),
});

/** The lists again; those that are empty are one and the same. */
export function restoreLists<T extends object>({ lengths, all }: TransposedLists): (readonly T[])[] {
	const rows = restoreRows<T>(all);
	let from = 0;
	return lengths.map((length) => {
		const list = length ? rows.slice(from, from + length) : NONE;
		from += length;
		return list;
	});
}
const NONE: readonly never[] = [];
