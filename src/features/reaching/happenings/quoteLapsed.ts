import { dealsThat, lit, reasonOf } from "./dealChanges";
import { happening, NEVER } from "./happening";

/** A quote's day has passed without an answer. */
export const quoteLapsed = happening({
	kind: "quote-lapsed",
	label: "a quote lapses",
	usual: NEVER,
	find: (scan) => dealsThat(scan, (was, is) => reasonOf(lit("quote-lapsing", was, is))),
	say: ({ deal, reason }) => `${deal}: ${reason}`,
});
