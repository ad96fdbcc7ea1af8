const USUAL = 4096;

/**
 * What is made of an object, kept for those that were asked about last, and for no longer than they are there: for what is
 * made quickly, is asked for several times in a row, and would take much room if it were kept for all.
 *
 * @param most at least so many are kept, and at most twice as many
 * @example const lengthOf = recent((list: readonly number[]) => list.length);
 */
export function recent<O extends object, T>(make: (of: O) => T, most = USUAL): (of: O) => T {
	let younger = new WeakMap<O, { readonly value: T }>();
	let older = younger;
	let count = 0;
	return (of) => {
		const known = younger.get(of);
		if (known) return known.value;
		const kept = older.get(of) ?? { value: make(of) };
		if (++count > most) {
			older = younger;
			younger = new WeakMap();
			count = 1;
		}
		younger.set(of, kept);
		return kept.value;
	};
}
