import { LRUCache } from "lru-cache";
import { processSingleton } from "@/data/processSingleton";

type Kept = LRUCache<string, { readonly value: unknown }>;
/** One for the process, so that pages and routes share what either has made. */
const owners = processSingleton("cached", () => new WeakMap<object, Map<string, Kept>>());
const USUAL = 24;

/**
 * What was made under a key for an owner, or makes it. It is kept with the owner (mostly the company it was made of), so
 * that it never outlives a write, and of each kind only the `most` that were used last. A promise that fails is made
 * again.
 *
 * @example cached(company, "survey", String(day), () => surveyOf(company, day), 8)
 */
export function cached<T>(owner: object, kind: string, key: string, make: () => T, most = USUAL): T {
	const kept = keptBy(owner, kind, most);
	const known = kept.get(key);
	if (known) return known.value as T;
	const value = make();
	kept.set(key, { value });
	if (value instanceof Promise) value.catch(() => kept.delete(key));
	return value;
}

/** What is kept of a kind for an owner, by key, the last used first. */
export function cachedOf<T>(owner: object, kind: string): [key: string, value: T][] {
	return [...(owners.get(owner)?.get(kind)?.entries() ?? [])].map(([key, { value }]) => [key, value as T]);
}

function keptBy(owner: object, kind: string, most: number): Kept {
	const kinds = owners.get(owner) ?? new Map<string, Kept>();
	owners.set(owner, kinds);
	const kept = kinds.get(kind) ?? (new LRUCache({ max: most }) as Kept);
	kinds.set(kind, kept);
	return kept;
}
