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
const shared = globalThis as { porchLampDerived?: { readonly kinds: Map<string, Owners>; next: number } };
shared.porchLampDerived ??= { kinds: new Map(), next: 1 };
const store = shared.porchLampDerived;

const ownersOf = (kind: string): Owners => (store.kinds.get(kind) ?? store.kinds.set(kind, new WeakMap()).get(kind)) as Owners;

const USUAL = 24;

/**
 * What `make` makes of an owner and of what else it depends on, kept with the owner; a promise that fails is made again.
 *
 * @param kind a name that nothing else uses
 * @param most so many values an owner keeps, those that were used last
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
		const before = owners.get(owner);
		const known = before?.get(key);
		if (before && known) {
			// In what is half empty nothing is soon to go, and the order in which it is used is nobody’s concern.
			if (before.size > 1 && before.size > most / 2 && before.delete(key)) before.set(key, known);
			return known.value as T;
		}
		const value = make(owner, ...keys);
		// Only now: making it may have kept others with the same owner.
		const kept: Kept = owners.get(owner) ?? new Map();
		owners.set(owner, kept);
		kept.set(key, { value });
		if (kept.size > most) kept.delete(kept.keys().next().value);
		if (value instanceof Promise) value.catch(() => kept.delete(key));
		return value;
	};
}

/**
 * The same for what is asked for at one place only.
 *
 * @example derive(company, "period pace", `${from} ${to}`, () => paceOf(company, from, to), 8)
 */
export const derive = <T>(owner: object, kind: string, key: Key, make: () => T, most = USUAL): T => derived<object, [Key], T>(kind, make, most)(owner, key);

/** What was made again and says the same as before is the same object, so that what hangs on it holds. `says` is all it says. */
export const toldApart = <T>(owner: object, kind: string, says: string, value: T, most = 1): T => derive(owner, kind, says, () => value, most);

/**
 * One key of several parts: objects stand in it by a number of their own.
 *
 * @example keyOf("open", 3, null) // "open 3 null"
 */
export const keyOf = (...parts: readonly Key[]): string =>
	parts.map((part) => (typeof part === "object" && part ? `#${numberOf(part)}` : String(part))).join(" ");

const numberOf = derived("number of an object", () => store.next++);
