import type { Sum } from "./counted";

/** A deal as an account of a period tells of it; amounts in base minor units, days ISO. */
export interface CloseDeal {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	readonly amount: number;
	/** where it is dated at the end of the period */
	readonly close: string | null;
	/** why it was pushed or lost, as somebody said */
	readonly reason: string | null;
	/** the day it left the period for a later date */
	readonly leftOn: string | null;
}

/** Deals together, and the largest of them. */
export interface CloseStep extends Sum {
	/** a step of the bridge; `opening` and `closing` at its ends */
	readonly kind: string;
	readonly name: string;
	readonly leaves: boolean;
	readonly deals: readonly CloseDeal[];
}

/** A part of the result: a rep, a team or a family. */
export interface CloseGroup {
	readonly key: string;
	readonly name: string;
	readonly target: number | null;
	readonly won: Sum;
	readonly lost: Sum;
	readonly open: Sum;
}

/** How a period stood by the end of a day. */
export interface ClosePoint {
	readonly day: string;
	readonly won: number;
	readonly commit: number;
}

/** Where the period would end as it was foretold on a day. */
export interface CloseOutlook {
	readonly day: string;
	readonly low: number;
	readonly middle: number;
	readonly high: number;
}

/** What of a rep's own words and work came true. */
export interface CloseRep {
	readonly id: string;
	readonly name: string;
	/** deals in commit on the first day, and how many of them were won in the period */
	readonly commit: { readonly of: number; readonly won: number };
	/** calls of rounds of which it can be told, and how many came true */
	readonly calls: { readonly of: number; readonly held: number };
	/** deals pushed out, and how many of them in the last days */
	readonly pushed: { readonly n: number; readonly late: number };
	/** flags that tasks given to them were to put out, of which it can be told, and how many went out */
	readonly flags: { readonly of: number; readonly out: number };
}

/** A deal that came out otherwise than foretold on the first day, and by how much. */
export interface CloseDifference {
	readonly id: string;
	readonly name: string;
	/** what came less what was to be expected */
	readonly amount: number;
	readonly chance: number;
	/** what it was won for; null where it wasn't */
	readonly wonFor: number | null;
	readonly wonOn: string | null;
}

/** A period beside it: what it had won, and its target. */
export interface CloseBeside {
	readonly from: string;
	readonly to: string;
	readonly won: Sum;
	readonly target: number | null;
}

/** How a period ended, as it is kept: seen on its last day, at that day's rates, in base minor units. */
export interface CloseAccount {
	readonly from: string;
	readonly to: string;
	readonly currency: string;
	readonly target: number | null;
	readonly won: Sum;
	readonly lost: Sum;
	readonly open: Sum;
	readonly reps: readonly CloseGroup[];
	readonly teams: readonly CloseGroup[];
	readonly families: readonly CloseGroup[];
	/** from what was open at the end of the day before it began, step by step, to what is open at its end */
	readonly went: readonly CloseStep[];
	/** in commit at the end of the first day: how many and how much, and what of it was won */
	readonly committed: { readonly said: Sum; readonly came: Sum };
	readonly points: readonly ClosePoint[];
	readonly outlooks: readonly CloseOutlook[];
	readonly words: readonly CloseRep[];
	/** the first of the last days, and what was won and pushed out on them */
	readonly lastDays: { readonly from: string; readonly won: Sum; readonly pushed: Sum };
	/** what wins of the last ten working days and all others gave away in the ten working days before the win: amounts then and when won */
	readonly gaveWay: { readonly late: CloseGave; readonly others: CloseGave };
	readonly tasks: { readonly given: number; readonly done: number; readonly out: number; readonly lit: number };
	readonly differences: readonly CloseDifference[];
	/** won in the period, and not open on its first day */
	readonly unforeseen: Sum;
	readonly before: CloseBeside;
	readonly yearAgo: CloseBeside;
}

export interface CloseGave {
	readonly n: number;
	readonly before: number;
	readonly after: number;
}
