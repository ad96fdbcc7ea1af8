import type { Move } from "@/core/period/try";
import { spaced } from "@/ui/format";

export const WHAT_WORDS = { win: "are won", drop: "are dropped", push: "are pushed out", price: "are priced at" } as const;

/** A move as it reads: `all best case: 40% are won`. */
export function moveWords({ whom, what, percent }: Move, dealName: (id: string) => string): string {
	const who =
		whom.field === "deal"
			? dealName(whom.value)
			: whom.field === "flag"
				? `all with ${whom.value.replaceAll("-", " ")}`
				: whom.field === "level"
					? `all at ${whom.value}`
					: whom.field === "owner"
						? `all of ${whom.value}`
						: `all ${whom.field === "stage" ? `in ${whom.value}` : spaced(whom.value)}`;
	const one = whom.field === "deal";
	if (what === "price") return `${who} ${one ? "is" : "are"} priced at ${percent}%`;
	const done = { win: "won", drop: "dropped", push: "pushed out of the period" }[what];
	return percent === 100 ? `${who} ${one ? "is" : "are"} ${done}` : `${percent}% of ${who} ${one ? "is" : "are"} ${done}`;
}
