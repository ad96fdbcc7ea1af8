import { assertStorable } from "@/platform/input";
import type { ViewpointQuery } from "@/platform/viewpoint";

export type SearchParams = Promise<Record<string, string | string[] | undefined>>;

const one = (value: string | string[] | undefined) => (Array.isArray(value) ? value[0] : value) || undefined;

/** The viewpoint's part of an address. */
export async function viewpointQuery(params: SearchParams): Promise<ViewpointQuery> {
	return wordsOf(params, ["whose", "due", "seen", "against"]);
}

/** Gives what stands in an address by name, as `wordsOf` does. */
export async function askOf(params: SearchParams): Promise<(name: string) => string | undefined> {
	const query = await params;
	assertStorable(query);
	return (name) => one(query[name]);
}

/** Some words of an address by name; the first where one is there twice, undefined where it is missing or empty. */
export async function wordsOf<K extends string>(params: SearchParams, names: readonly K[]): Promise<Record<K, string | undefined>> {
	const ask = await askOf(params);
	return Object.fromEntries(names.map((name) => [name, ask(name)])) as Record<K, string | undefined>;
}

/** An address with its query, to come back to after signing in. */
export async function addressOf(path: string, params: SearchParams): Promise<string> {
	const query = new URLSearchParams();
	for (const [name, value] of Object.entries(await params)) if (one(value)) query.set(name, one(value) as string);
	return query.size ? `${path}?${query}` : path;
}

/** Where the long part of a page is fetched from: its viewpoint, and the revision it is of, so that a write makes it another address. */
export function restAddress(path: string, query: Readonly<Record<string, string | undefined>>, revision: number): string {
	const params = new URLSearchParams({ revision: String(revision) });
	for (const [name, value] of Object.entries(query)) if (value) params.set(name, value);
	return `${path}?${params}`;
}
