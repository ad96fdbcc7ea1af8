import type { Day } from "../time/day";

export const DIRECTIONS = ["in", "out", "both", "none"] as const;
/** `in`: they to us; `out`: we to them; `both`: a conversation; `none`: internal. */
export type Direction = (typeof DIRECTIONS)[number];

/** Something that was done about a deal, or is planned. */
export interface Activity {
	readonly kind: string;
	readonly direction: Direction;
	readonly state: "planned" | "done";
	/** ms since the epoch, and its day */
	readonly at: number;
	readonly day: Day;
	/** ids of the people of the buyer's who took part */
	readonly contacts: readonly string[];
	/** the day it was written down here, before which nobody knew of it; NO_DAY where that isn't known */
	readonly recorded: Day;
	/** of one that was planned before it was done: the day it was planned for, and the day that it was said to be done; else NO_DAY */
	readonly plannedFor: Day;
	readonly settled: Day;
	/** index of the person of ours who did it, or is to, or NONE */
	readonly by: number;
}
