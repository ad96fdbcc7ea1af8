import type { Ledger, LedgerBlock } from "../company";
import { derived } from "../derive";
import { NONE } from "../history/columns";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** The day of a deal that is open still: after all others. */
const NEVER = 2 ** 31 - 1;
/** How many days one list of candidates serves, and how many lists are kept. */
const SPAN = 32;
const KEPT = 16;
/** Stands for more than one owner. */
export const SEVERAL = -2;

/** What all versions of a deal keep within, for each deal of a block: enough to pass over most deals without reading a version. */
interface Extent {
	/** the day since which the deal is closed or gone for good, by its last version; NEVER while it is open, before all days where it has no version */
	readonly settled: Int32Array;
	/** the day of its last version */
	readonly last: Int32Array;
	/** the earliest and the latest close date of all its versions; where none has one, the earliest is after the latest */
	readonly earliest: Int32Array;
	readonly latest: Int32Array;
	/** the owner of all its versions, NONE of none; SEVERAL where they differ */
	readonly owner: Int32Array;
}

/** Worked out once for a block: a write makes that of its own block anew. */
const extentOf = derived("extents of deals", ({ offsets, stage, day, close, owner }: LedgerBlock, stages: Ledger["rules"]["stages"]): Extent => {
	const size = offsets.length - 1;
	const column = (value: number) => new Int32Array(size).fill(value);
	const extent: Extent = { settled: column(NEVER), last: column(-NEVER), earliest: column(NEVER), latest: column(-NEVER), owner: column(NONE) };
	for (let own = 0; own < size; own++) {
		const [first, end] = [offsets[own] as number, offsets[own + 1] as number];
		if (first === end) {
			extent.settled[own] = -NEVER;
			continue;
		}
		extent.last[own] = day[end - 1] as number;
		if (stages[stage[end - 1] as number]?.kind !== "open") extent.settled[own] = day[end - 1] as number;
		extent.owner[own] = owner[first] as number;
		for (let row = first; row < end; row++) {
			if (owner[row] !== extent.owner[own]) extent.owner[own] = SEVERAL;
			const due = close[row] as number;
			if (due === NO_DAY) continue;
			if (due < (extent.earliest[own] as number)) extent.earliest[own] = due;
			if (due > (extent.latest[own] as number)) extent.latest[own] = due;
		}
	}
	return extent;
});

/** The deals of a block that a comparison may have to look at, in their order. */
export interface Candidates {
	/** the place of each in its block */
	readonly own: Uint8Array;
	/** the day of its last version */
	readonly last: Int32Array;
	/** the owner of all its versions, NONE of none; SEVERAL where they differ */
	readonly owner: Int32Array;
}

/** The deals of a block that weren't settled by a day, and had a close date near or in a period. */
const candidatesOf = derived(
	"candidates of a block",
	(block: LedgerBlock, stages: Ledger["rules"]["stages"], since: Day, start: Day, end: Day): Candidates => {
		const { settled, earliest, latest, last, owner } = extentOf(block, stages);
		const own: number[] = [];
		for (let at = 0; at < settled.length; at++) {
			if ((settled[at] as number) > since && (earliest[at] as number) <= end && (latest[at] as number) >= start) own.push(at);
		}
		const pick = (column: Int32Array) => Int32Array.from(own, (at) => column[at] as number);
		return { own: Uint8Array.from(own), last: pick(last), owner: pick(owner) };
	},
	KEPT,
);

const ofAll = derived(
	"candidates of all blocks",
	(blocks: Ledger["history"]["blocks"], stages: Ledger["rules"]["stages"], since: Day, start: Day, end: Day): readonly Candidates[] =>
		blocks.map((block) => candidatesOf(block, stages, since, start, end)),
	KEPT,
);

/**
 * The deals that a comparison from a day on of what closes in a period may have to look at, block by block: all that it
 * touches, and some that it doesn't, since one list serves all days of a month or so.
 */
export const candidates = ({ history, rules }: Ledger, dayA: Day, { start, end }: Period): readonly Candidates[] =>
	ofAll(history.blocks, rules.stages, dayA - (((dayA % SPAN) + SPAN) % SPAN), start, end);
