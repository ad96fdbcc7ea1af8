import type { Day } from "../time/day";

/** The manager's word on a deal in a round. */
export const CALLS = ["holds", "shaky", "moves", "gone"] as const;
export type Call = (typeof CALLS)[number];

export const CALL_WORDS: Readonly<Record<Call, { readonly words: string; readonly means: string }>> = {
	holds: { words: "Holds", means: "closes in this period" },
	shaky: { words: "Shaky", means: "may close, with work" },
	moves: { words: "Moves", means: "will close on another day" },
	gone: { words: "Gone", means: "will not be won" },
};

/** A call as it counts: *moves* names the new day. */
export interface Called {
	readonly call: Call;
	/** the day it moves to, or NO_DAY */
	readonly to: Day;
}
