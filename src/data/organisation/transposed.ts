/** One field of many objects: numbers, and lists of numbers, in an array of numbers; values of which there are few, each once, with the places of all; or the values as they are. */
export type Column =
	| { readonly numbers: Float64Array | Int32Array }
	| { readonly inLists: Float64Array; readonly lengths: Int32Array }
	| { readonly texts: readonly unknown[]; readonly places: Int16Array }
	| { readonly values: readonly unknown[] };

/** Objects of one shape as a column for each of their fields: read back several times as fast as the objects would be. */
export interface Transposed {
	readonly count: number;
	readonly fields: Readonly<Record<string, Column>>;
}

/** Values of one field as a column. */
export function columnOf(values: readonly unknown[]): Column {
	if (values.every((value) => typeof value === "number")) {
		const whole = values.every((value) => (value | 0) === value && !Object.is(value, -0));
		return { numbers: whole ? Int32Array.from(values) : Float64Array.from(values) };
	}
	if (values.every(isNumbers) && values.some((list) => list.length)) {
		return { inLists: Float64Array.from(values.flat()), lengths: Int32Array.from(values, ({ length }) => length) };
	}
	const keys = new Map<string, number>();
	const texts: unknown[] = [];
	const places = Int16Array.from(values, (value) => {
		const key = JSON.stringify(value);
		const known = keys.get(key);
		if (known !== undefined) return known;
		keys.set(key, texts.length);
		return texts.push(value) - 1;
	});
	// Of numbers and objects JSON doesn't tell everything apart.
	const few = texts.length * 2 <= values.length && values.every(isTold);
	return few ? { texts, places } : { values };
}

/** Whether a value's JSON is no other value's. */
const isTold = (value: unknown): boolean =>
	value === null || typeof value === "string" || typeof value === "boolean" || (Array.isArray(value) && value.every((one) => typeof one === "string"));

const isNumbers = (value: unknown): value is number[] => Array.isArray(value) && value.every((one) => typeof one === "number");

/** Lists of numbers from all of them in a row; each takes no more room than its numbers do. */
function listsOf({ inLists, lengths }: { readonly inLists: Float64Array; readonly lengths: Int32Array }): number[][] {
	let from = 0;
	return Array.from(lengths, (length) => {
		const list = new Array<number>(length);
		for (let i = 0; i < length; i++) list[i] = inLists[from + i] as number;
		from += length;
		return list;
	});
}

/** The values of a column; those that were the same list are one and the same. */
export function valuesOf(column: Column): ArrayLike<unknown> {
	if ("numbers" in column) return column.numbers;
	if ("values" in column) return column.values;
	if ("inLists" in column) return listsOf(column);
	return Array.from(column.places, (place) => column.texts[place]);
}

/**
 * Objects of one shape by field.
 *
 * @example transpose([{ a: 1, b: 2 }, { a: 3, b: 4 }]).count // 2
 */
export function transpose(objects: readonly object[]): Transposed {
	const names = Object.keys(objects[0] ?? {});
	return {
		count: objects.length,
		fields: Object.fromEntries(names.map((name) => [name, columnOf(objects.map((one) => (one as Record<string, unknown>)[name]))])),
	};
}

/**
 * The objects again, their fields in the same order.
 *
 * @example restoreRows(transpose([{ a: 1, b: "x" }, { a: 3, b: "y" }])) // [{ a: 1, b: "x" }, { a: 3, b: "y" }]
 */
export function restoreRows<T extends object>({ count, fields }: Transposed): T[] {
	const columns = Object.entries(fields).map(([name, column]) => [name, valuesOf(column)] as const);
	return Array.from({ length: count }, (_, i) => {
		const one: Record<string, unknown> = {};
		for (const [name, values] of columns) one[name] = values[i];
		return one as T;
	});
}

/** Lists of objects of one shape, most of them short or empty: where each begins, and all objects by field. */
export interface TransposedLists {
	readonly lengths: Column;
	readonly all: Transposed;
}

/** @example restoreLists(transposeLists([[{ a: 1 }], [], [{ a: 3 }]])) // [[{ a: 1 }], [], [{ a: 3 }]] */
export const transposeLists = (lists: readonly (readonly object[])[]): TransposedLists => ({
	lengths: columnOf(lists.map(({ length }) => length)),
	all: transpose(lists.flat()),
});

/** The lists again; those that are empty are one and the same. */
export function restoreLists<T extends object>({ lengths, all }: TransposedLists): (readonly T[])[] {
	const rows = restoreRows<T>(all);
	let from = 0;
	return Array.from(valuesOf(lengths) as ArrayLike<number>, (length) => {
		const list = length ? rows.slice(from, from + length) : NOTHING;
		from += length;
		return list;
	});
}
const NOTHING: readonly never[] = [];
