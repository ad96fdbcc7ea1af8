/**
 * The items of a list under the keys that they have, in their order.
 *
 * @example [...groupBy([1, 2, 3], (n) => n % 2).values()] // [[1,3],[2]]
 */
export function groupBy<T, K>(list: Iterable<T>, keyOf: (item: T) => K): Map<K, T[]> {
	const found = new Map<K, T[]>();
	for (const item of list) {
		const key = keyOf(item);
		const known = found.get(key);
		if (known) known.push(item);
		else found.set(key, [item]);
	}
	return found;
}
