/** Lists put one after another, and of each where it begins and ends. */
export function inARow<T>(lists: readonly Iterable<T>[]): { readonly all: readonly T[]; readonly spans: readonly (readonly [from: number, end: number])[] } {
	const all: T[] = [];
	const spans = lists.map((list) => {
		const from = all.length;
		for (const one of list) all.push(one);
		return [from, all.length] as const;
	});
	return { all, spans };
}

/** Keeps each text once, after those that are there: answers the place of a text in `texts`, where it comes to stand if it is new. */
export function textsOnce(first: readonly string[] = []): { readonly texts: string[]; place(text: string): number } {
	const texts = [...first];
	const places = new Map(texts.map((text, i) => [text, i]));
	return {
		texts,
		place(text) {
			const known = places.get(text);
			if (known !== undefined) return known;
			places.set(text, texts.length);
			return texts.push(text) - 1;
		},
	};
}
