import { derive, keyOf } from "./derive";

/**
 * The first of some sorted lists as one sorted list, two by two: what two lists were merged to is kept with them, so that
 * after one of many has changed only those are merged again that it is part of.
 *
 * @param kind a name that nothing else uses, for one order
 * @param most so many are wanted of all
 * @example merged([[1, 4], [2], [3]], "numbers", (a, b) => a - b, 3) // [1, 2, 3]
 */
export function merged<T>(lists: readonly (readonly T[])[], kind: string, compare: (a: T, b: T) => number, most: number): readonly T[] {
	let level = lists;
	while (level.length > 1) {
		const next: (readonly T[])[] = [];
		for (let i = 0; i < level.length; i += 2) {
			const [left, right] = [level[i] as readonly T[], level[i + 1]];
			next.push(right?.length ? (left.length ? derive(left, kind, keyOf(right, most), () => mergedTwo(left, right, compare, most), 2) : right) : left);
		}
		level = next;
	}
	const [all = []] = level;
	return all.length > most ? all.slice(0, most) : all;
}

function mergedTwo<T>(left: readonly T[], right: readonly T[], compare: (a: T, b: T) => number, most: number): T[] {
	const all: T[] = new Array(Math.min(most, left.length + right.length));
	let [l, r] = [0, 0];
	for (let at = 0; at < all.length; at++) {
		const fromLeft = l < left.length && (r >= right.length || compare(left[l] as T, right[r] as T) <= 0);
		all[at] = fromLeft ? (left[l++] as T) : (right[r++] as T);
	}
	return all;
}
