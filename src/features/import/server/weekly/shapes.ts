import type { DealState } from "@/core/deal/state";
import type { StageInput } from "@/features/setup";
import type { Cause } from "@/formats/causes";
import type { Grid } from "@/formats/grid";
import type { DateReading } from "@/formats/weekly/dates";
import type { DecimalMark } from "@/formats/weekly/money";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import type { WeeklyRow } from "@/formats/weekly/rowReader";
import type { Unsure } from "./mapping";
import type { OpenPerson } from "./people";

/** A file as it is sent, with what was chosen for it so far. */
export interface WeeklySent {
	readonly name: string;
	readonly bytes: Uint8Array;
	readonly day: string | null;
	readonly plan: Partial<WeeklyPlan> | null;
}

/** Something that has to be confirmed before a file is imported. */
export interface Ask {
	readonly key: string;
	readonly words: string;
	/** what is confirmed by saying yes */
	readonly yes: string;
}

export interface WeeklyView {
	readonly name: string;
	readonly rows: number;
	/** ISO day; null: the name doesn't say, and nobody has yet */
	readonly day: string | null;
	/** in what it is written: an encoding of text, or a workbook */
	readonly written: string;
	readonly sheets: readonly string[];
	/** lines above the header, and what stands in the lines below the table that look like totals or notes */
	readonly above: number;
	readonly below: readonly { readonly line: number; readonly words: string }[];
	/** parts that files were about so far */
	readonly parts: readonly string[];
	readonly fields: readonly { readonly key: keyof WeeklyPlan["columns"]; readonly label: string; readonly needed: boolean }[];
	/** their columns, each with a few of its values */
	readonly columns: readonly { readonly name: string; readonly samples: readonly string[] }[];
	readonly plan: WeeklyPlan;
	readonly unsure: Unsure;
	/** encodings the text may be in, each with a line that shows the difference; empty where it is sure */
	readonly encodings: Grid["open"];
	/** what the dates become by each order that can read them; empty where there is nothing to choose */
	readonly dates: readonly DateReading[];
	/** deals on several lines: how many are added up, and those that differ in more than their amount */
	readonly summed: { readonly deals: number; readonly lines: number };
	readonly differing: readonly { readonly id: string; readonly lines: readonly number[]; readonly words: readonly string[] }[];
	/** what the amounts add up to by each decimal mark that can read them, in minor units of the file's currency */
	readonly amounts: readonly { readonly mark: DecimalMark; readonly total: number; readonly unread: number }[];
	readonly stages: readonly string[];
	/** while there are none: stages that could be made of theirs; null where there are some, or their column isn't chosen yet */
	readonly firstStages: readonly StageInput[] | null;
	/** their stages that ours have to be named for, with how many rows have them */
	readonly unknownStages: readonly { readonly name: string; readonly count: number }[];
	/** people of the file who aren't known, or of whom there are several; `who` may be chosen from everyone */
	readonly people: readonly OpenPerson[];
	readonly everyone: readonly { readonly id: string; readonly label: string }[];
	/** what is wrong, one cause at a time */
	readonly causes: readonly Cause[];
	/** rows that have a problem; whether the good ones can be taken without them */
	readonly problemCount: number;
	readonly goodRows: number | null;
	/** the file of the same day and part that the rows can be added to */
	readonly addsTo: string | null;
	/** what taking it in would do; null while something has to be said first */
	readonly change: WeeklyChange | null;
	/** the file before it, and the one of the same day and part, which it would replace */
	readonly before: { readonly name: string; readonly day: string } | null;
	readonly replaces: string | null;
	/** this very file was imported already, for that day */
	readonly sameAs: string | null;
	/** each must be answered with yes before it is imported */
	readonly asks: readonly Ask[];
}

/** A row that was read, with what it says by our names. */
export type SaidRow = WeeklyRow & { readonly said: Partial<DealState>; readonly accountId: string | null };

export interface WeeklyChange {
	readonly fresh: number;
	readonly changed: number;
	readonly same: number;
	/** deals of the file before that are open and not in this one; decided later, one by one */
	readonly missing: number;
	/** how many deals change in a field */
	readonly fields: readonly { readonly label: string; readonly count: number }[];
	readonly newPeople: readonly string[];
	readonly newAccounts: number;
	/** of the changed ones, those that somebody changed here since the file before: the file's word is taken */
	readonly editedHere: number;
	/** rows that can't be read and are left out, amounts that were rounded */
	readonly leftOut: number;
	readonly rounded: number;
	/** count and total of the file against those of the file before */
	readonly sums: Sums;
}

/** Deals and what they come to, in minor units of the base currency. */
export interface Sum {
	readonly count: number;
	readonly amount: number;
}

/** A file's sums beside those of the file before; null where there is none. */
export interface Compared {
	readonly before: Sum | null;
	readonly now: Sum;
}

export interface Sums {
	readonly currency: string;
	readonly total: Compared;
	readonly stages: readonly (Compared & { readonly name: string })[];
	readonly owners: readonly (Compared & { readonly name: string })[];
}
