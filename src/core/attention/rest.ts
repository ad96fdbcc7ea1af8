import { type Day, NO_DAY } from "../time/day";
import type { Attention } from "./attention";

/** A lit deal left alone till a day, with a reason: until then, or until another flag lights. */
export interface Rest {
	readonly id: string;
	readonly from: Day;
	/** the first day on which it is lit again by itself */
	readonly until: Day;
	/** the first day on which it no longer held, where it ended before its time; else NO_DAY */
	readonly ended: Day;
	/** codes of the flags that were lit when it was given; any other ends it */
	readonly flags: readonly string[];
	/** index of the person who gave it, or NONE */
	readonly by: number;
	readonly reason: string;
}

/** The rest that a deal has on a day with the flags that are lit then, or null. */
export function restOn(rests: readonly Rest[], flags: readonly { readonly code: string }[], day: Day): Rest | null {
	for (let i = rests.length - 1; i >= 0; i--) {
		const rest = rests[i] as Rest;
		if (holdsOn(rest, day) && !strangerOf(rest, flags)) return rest;
	}
	return null;
}

/**
 * Whether the days of a rest hold a day; another flag may have ended it all the same.
 *
 * @example holdsOn({ from: 10, until: 20, ended: 15 }, 14) // true
 */
export const holdsOn = ({ from, until, ended }: Rest, day: Day): boolean => from <= day && day < until && (ended === NO_DAY || day < ended);

/** The first flag that is lit and wasn't when the rest was given: it ends the rest. */
export const strangerOf = <F extends { readonly code: string }>(rest: Pick<Rest, "flags">, flags: readonly F[]): F | null =>
	flags.find(({ code }) => !rest.flags.includes(code)) ?? null;

/** The attention that a deal at rest has: what it would have, at the level of a calm one, so that no count holds it. */
export const resting = (attention: Attention): Attention => (attention.level === "calm" ? attention : { ...attention, level: "calm" });
