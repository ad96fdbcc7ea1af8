import type { Share } from "@/core/statistics/wilson";

/** What stands in a place of a table. What has `opens` opens the deals that it was made of. */
export type Cell =
	| {
			readonly kind: "text";
			readonly words: string;
			readonly tiny?: string | undefined;
			readonly tone?: "better" | "worse" | undefined;
			readonly opens?: string;
	  }
	| { readonly kind: "count"; readonly value: number | null; readonly opens?: string }
	/** days, times as often: a number with so many digits and what it is of */
	| { readonly kind: "number"; readonly value: number | null; readonly digits: number; readonly unit: string; readonly opens?: string }
	/** base minor units */
	| { readonly kind: "money"; readonly minor: number | null; readonly opens?: string }
	| { readonly kind: "percent"; readonly value: number | null; readonly opens?: string }
	| { readonly kind: "share"; readonly share: Share /** what it is held against, drawn hollow */; readonly beside?: Share; readonly opens?: string }
	| ({ readonly kind: "times"; readonly opens?: string } & Times)
	| { readonly kind: "deal"; readonly id: string; readonly name: string; readonly account: string }
	| { readonly kind: "day"; readonly iso: string | null }
	/** a deal to come back to: the day that suggests itself, and the day on which somebody already does */
	| { readonly kind: "comeBack"; readonly dealId: string; readonly day: string; readonly back: string | null; readonly title: string };

/** How long something took, in working days, the unfinished counted as such; and all of it beside, to be held against. */
export interface Times {
	readonly finished: number;
	readonly unfinished: number;
	/** how many of its first days, up to so many, a visit takes on average; working days */
	readonly mean: number | null;
	readonly upTo: number | null;
	readonly median: number | null;
	readonly interval: { readonly low: number | null; readonly high: number | null };
	readonly curve: Curve;
	/** how long each visit under way has lasted so far, each length once */
	readonly lasting: readonly number[];
	readonly all: Curve | null;
}
export type Curve = readonly { readonly length: number; readonly share: number }[];

export interface Column {
	readonly label: string;
	readonly kind: Cell["kind"];
}

export interface Row {
	readonly key: string;
	/** what the row is about */
	readonly name: string;
	readonly tiny?: string;
	/** the deal that it is about, which its name opens */
	readonly dealId?: string;
	readonly cells: readonly Cell[];
	readonly total?: boolean;
}

export interface PatternTable {
	/** names it in an address and in a file */
	readonly key: string;
	readonly title: string;
	/** what has to be said of it beside */
	readonly lead?: string;
	/** what the rows are about */
	readonly of: string;
	readonly columns: readonly Column[];
	readonly rows: readonly Row[];
	/** what is said where there are no rows */
	readonly empty: string;
	/** shares lie on one line with those they are held against */
	readonly half?: boolean;
}

/** A way to group, as it stands in the address under `by`. */
export interface Grouping {
	readonly key: string;
	readonly label: string;
}

export interface Looked {
	readonly from: string;
	readonly to: string;
	readonly day: string;
}

/** What one view of the past says. */
export interface PatternView {
	/** the finding, and what else is to be known */
	readonly headline: string;
	readonly beside: readonly string[];
	readonly tables: readonly PatternTable[];
	/** what of their deals is looked at, where it isn't quarters: "deals won within a year" */
	readonly about: string | null;
	/** how many deals it rests on, in large and in small */
	readonly rests: readonly [count: string, words: string];
	/** the quarters looked at, the latest first; null where a view looks at the year before */
	readonly looked: readonly Looked[] | null;
	/** where one goes on from it, for those who may */
	readonly follow?: { readonly label: string; readonly path: string; readonly right: string };
	readonly groupings: readonly Grouping[];
	readonly by: string | null;
	readonly currency: string;
}

/** A deal behind a figure, as it was on the day it was looked at. */
export interface BehindLine {
	readonly id: string;
	readonly name: string;
	readonly account: string;
	readonly owner: string;
	/** base minor units; null where it isn't about an amount */
	readonly amount: number | null;
	/** the day looked at, ISO */
	readonly day: string;
	/** what came of it */
	readonly came: string;
	/** it is one of those that are counted; null where all are */
	readonly hit: boolean | null;
}

export interface BehindView {
	readonly key: string;
	readonly title: string;
	/** the sum in words */
	readonly sum: string;
	readonly lines: readonly BehindLine[];
	/** deals that are out of sight of whoever looks */
	readonly hidden: number;
}

/** A cell of words. */
export const text = (words: string, tiny?: string, tone?: "better" | "worse"): Cell => ({ kind: "text", words, tiny, tone });

/**
 * What a cell is sorted by: its figure, its day or its words; null, which stands last, where it says nothing.
 *
 * @example sortedBy({ kind: "money", minor: 1200 }) // 1200
 */
export function sortedBy(cell: Cell): string | number | null {
	switch (cell.kind) {
		case "text":
			return cell.words || null;
		case "count":
		case "number":
		case "percent":
			return cell.value;
		case "money":
			return cell.minor;
		case "share":
			return cell.share.share;
		case "times":
			return cell.median;
		case "deal":
			return cell.name;
		case "day":
			return cell.iso;
		case "comeBack":
			return cell.back ?? cell.day;
	}
}
