const USUAL = 8192;

/**
 * What is made of an object, kept for those that were asked about last, and for no longer than they are there: for what is
 * made quickly, is asked for several times in a row, and would take much room if it were kept for all.
 *
 * @param most at most so many are kept; with one more all are let go
 * @example const lengthOf = recent((list: readonly number[]) => list.length);
 */
export function recent<O extends object, T>(make: (of: O) => T, most = USUAL): (of: O) => T {
	let kept = new WeakMap<O, { readonly value: T }>();
	let count = 0;
	return (of) => {
		const known = kept.get(of);
		if (known) return known.value;
		const value = make(of);
		if (++count > most) [kept, count] = [new WeakMap(), 1];
		kept.set(of, { value });
		return value;
	};
}
