/**
 * Gives what was made of an object before, or makes it: kept with the object, and gone with it.
 *
 * @example const namesOf = keeper((company: Company) => company.people.map(nameOf));
 */
export function keeper<O extends object, T>(make: (owner: O) => T): (owner: O) => T {
	const kept = new WeakMap<O, { readonly value: T }>();
	return (owner) => {
		const known = kept.get(owner);
		if (known) return known.value;
		const value = make(owner);
		kept.set(owner, { value });
		return value;
	};
}

/**
 * The same with a further key: what is made of an object for each key is kept with the object.
 *
 * @example const timesOn = keeperBy((history: History, day: Day) => measure(history, day));
 */
export function keeperBy<O extends object, K, T>(make: (owner: O, key: K) => T): (owner: O, key: K) => T {
	const ofOwner = keeper((_: O) => new Map<K, { readonly value: T }>());
	return (owner, key) => {
		const kept = ofOwner(owner);
		const known = kept.get(key);
		if (known) return known.value;
		const value = make(owner, key);
		kept.set(key, { value });
		return value;
	};
}
