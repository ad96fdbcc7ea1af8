import type { Ledger, LedgerBlock } from "../company";
import { derived } from "../derive";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** How many days one list of candidates serves, and how many lists are kept. */
const SPAN = 32;
const KEPT = 16;
/** Stands for more than one owner. */
export const SEVERAL = -2;

/** The deals of a block that a comparison may have to look at, in their order. */
export interface Candidates {
	/** the place of each in its block */
	readonly own: Uint8Array;
	/** the day of its last version */
	readonly last: Int32Array;
	/** the owner of all its versions in force since, NONE of none; SEVERAL where they differ */
	readonly owner: Int32Array;
}

/**
 * The deals of a block that weren’t settled by a day and had a close date in a period since: only versions in force on
 * that day and after it are looked at, of most deals none.
 */
const candidatesOf = derived(
	"candidates of a block",
	({ offsets, stage, day, close, owner }: LedgerBlock, stages: Ledger["rules"]["stages"], since: Day, start: Day, end: Day): Candidates => {
		const found: { own: number; last: Day; owner: number }[] = [];
		for (let own = 0; own < offsets.length - 1; own++) {
			const [first, newest] = [offsets[own] as number, (offsets[own + 1] as number) - 1];
			const last = day[newest] as Day;
			if (newest < first || (last <= since && stages[stage[newest] as number]?.kind !== "open")) continue;
			let due = false;
			let by = owner[newest] as number;
			for (let row = newest; row >= first; row--) {
				if (owner[row] !== by) by = SEVERAL;
				const on = close[row] as number;
				if (on !== NO_DAY && on >= start && on <= end) due = true;
				if ((day[row] as number) <= since) break;
			}
			if (due) found.push({ own, last, owner: by });
		}
		const own = Uint8Array.from(found, (one) => one.own);
		return { own, last: Int32Array.from(found, (one) => one.last), owner: Int32Array.from(found, (one) => one.owner) };
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
