import type { SentenceQuery } from "@/usecases/sentence";

export type SearchParams = Promise<Record<string, string | string[] | undefined>>;

const one = (value: string | string[] | undefined) => (Array.isArray(value) ? value[0] : value) || undefined;

/** The sentence's part of an address. */
export async function sentenceQuery(params: SearchParams): Promise<SentenceQuery> {
	const query = await params;
	return { whose: one(query.whose), due: one(query.due), seen: one(query.seen), against: one(query.against) };
}

/** An address with its query, to come back to after signing in. */
export async function addressOf(path: string, params: SearchParams): Promise<string> {
	const query = new URLSearchParams();
	for (const [name, value] of Object.entries(await params)) if (one(value)) query.set(name, one(value) as string);
	return query.size ? `${path}?${query}` : path;
}
