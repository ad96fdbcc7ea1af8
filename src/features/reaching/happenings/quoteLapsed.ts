import { dealsThat, lit } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** A quote's day has passed without an answer. */
export const quoteLapsed = happening({
	kind: "quote-lapsed",
	words: "a quote lapses",
	usual: NEVER,
	find: (scan) => dealsThat(scan, (was, is) => lit("quote-lapsing", was, is)?.reason ?? null),
});
