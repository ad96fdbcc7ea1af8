/**
 * The one way in which what was worked out is kept: with what it was worked out of, under a name and a key, and gone with
 * it. What a value is made of never changes, so nothing that is kept is ever out of date; after a write another object
 * stands in the place of what was touched, and all others keep what hangs on them.
 */

/** What tells values of one kind apart: texts and numbers by their value, objects by being the same one. */
export type Key = string | number | boolean | null | undefined | object;

/** What is kept of a kind for one owner, by key, the least recently used first. */
type Kept = Map<Key, { readonly value: unknown }>;
type Owners = WeakMap<object, Kept>;

// Once for the whole process, since the framework builds pages and routes apart, each with modules of its own.
const shared = globalThis as { porchLampDerived?: { readonly kinds: Map<string, Owners>; readonly numbers: WeakMap<object, number>; next: number } };
shared.porchLampDerived ??= { kinds: new Map(), numbers: new WeakMap(), next: 1 };
const store = shared.porchLampDerived;

function ownersOf(kind: string): Owners {
	const known = store.kinds.get(kind);
	if (known) return known;
	const owners: Owners = new WeakMap();
	store.kinds.set(kind, owners);
	return owners;
}

const USUAL = 24;

/**
 * What was made of an owner under a key, or makes it. Of each kind an owner keeps the `most` values that were used last.
 * A promise that fails is made again.
 *
 * @param kind a name that nothing else uses
 * @example derive(company, "period pace", `${from} ${to}`, () => paceOf(company, from, to), 8)
 */
export function derive<T>(owner: object, kind: string, key: Key, make: () => T, most = USUAL): T {
	const owners = ownersOf(kind);
	const known = keptOf(owners, owner, key, most);
	return known ? (known.value as T) : keep(owners, owner, key, make(), most);
}

function keptOf(owners: Owners, owner: object, key: Key, most: number): { readonly value: unknown } | undefined {
	const kept = owners.get(owner);
	const known = kept?.get(key);
	// In what is half empty nothing is soon to go, and the order in which it is used is nobody’s concern.
	if (kept && known && kept.size > most / 2) {
		kept.delete(key);
		kept.set(key, known);
	}
	return known;
}

function keep<T>(owners: Owners, owner: object, key: Key, value: T, most: number): T {
	// Only now: making it may have kept others with the same owner.
	const kept: Kept = owners.get(owner) ?? new Map();
	owners.set(owner, kept);
	kept.set(key, { value });
	if (kept.size > most) kept.delete(kept.keys().next().value);
	if (value instanceof Promise) value.catch(() => kept.delete(key));
	return value;
}

/**
 * The same as a function of the owner and of what else it depends on.
 *
 * @param kind a name that nothing else uses
 * @example const usualOn = derived("usual times", (wins: Wins, day: Day) => measure(wins, day), 100);
 */
export function derived<O extends object, K extends readonly Key[], T>(
	kind: string,
	make: (owner: O, ...keys: K) => T,
	most = USUAL,
): (owner: O, ...keys: K) => T {
	const owners = ownersOf(kind);
	return (owner, ...keys) => {
		const key = keys.length < 2 ? keys[0] : keyOf(...keys);
		const known = keptOf(owners, owner, key, most);
		return known ? (known.value as T) : keep(owners, owner, key, make(owner, ...keys), most);
	};
}

/**
 * One key of several parts: objects stand in it by a number of their own.
 *
 * @example keyOf("open", 3, null) // "open 3 null"
 */
export const keyOf = (...parts: readonly Key[]): string =>
	parts.map((part) => (typeof part === "object" && part ? `#${numberOf(part)}` : String(part))).join(" ");

function numberOf(object: object): number {
	const known = store.numbers.get(object);
	if (known !== undefined) return known;
	const number = store.next++;
	store.numbers.set(object, number);
	return number;
}
