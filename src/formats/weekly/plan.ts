import type { SingleByte } from "../text";
import type { DateOrder } from "./dates";
import type { Columns } from "./fields";
import type { DecimalMark } from "./money";
import type { Scale } from "./scale";

/** How a sender's columns and values are read. What of it is about one file alone isn't remembered for the next. */
export interface WeeklyPlan {
	readonly columns: Columns;
	readonly dates: DateOrder;
	/** read anew from every file's own amounts */
	readonly decimal: DecimalMark;
	/** the power of ten that amounts are written in: 3 for thousands */
	readonly scale: Scale;
	/** of amounts without a currency of their own */
	readonly currency: string;
	/** their stages by ours; what is missing is asked */
	readonly stages: Readonly<Record<string, string>>;
	/** a region, team or pipeline that the file is about; empty: all of it. Files of other parts stand beside it */
	readonly covers: string;
	/** of a workbook; null: the first with something in it */
	readonly sheet: string | null;
	/** the line of the header */
	readonly header: number;
	/** lines between and below deals that look like totals, headings of groups or notes are left out */
	readonly leaveBelow: boolean;
	/** of a text in none of the usual encodings: the one it is in; null: as it is guessed */
	readonly encoding: SingleByte | null;
	/** rows that can't be read are left out, and the good ones taken alone */
	readonly goodOnly: boolean;
	/** of a deal on several lines that differ in more than their amount: which line the rest is taken from; null: not said yet */
	readonly lines: "first" | "last" | null;
	/** the rows are added to the file of the same day and part instead of taking its place */
	readonly adds: boolean;
	/** the person a name of theirs means, by id, where it isn't clear by itself; NEW_PERSON: somebody who isn't known yet */
	readonly people: Readonly<Record<string, string>>;
}

export const NEW_PERSON = "+";

/** What of a plan the next file of the same part begins with. */
export const remembered = ({ columns, dates, scale, currency, stages, covers, people }: WeeklyPlan) => ({
	columns,
	dates,
	scale,
	currency,
	stages,
	covers,
	people,
});

export type RememberedPlan = ReturnType<typeof remembered>;

/** How dates are written in an order, for people who have to choose or correct one. */
export const DATE_FORMS: Readonly<Record<DateOrder, string>> = {
	ymd: "year, month, day: 2026-11-24, 2026/11/24, 20261124, 2026-11-24T09:30:00Z, 24-Nov-2026",
	dmy: "day, month, year: 24.11.2026, 24/11/26, 24-Nov-26, 24. November 2026",
	mdy: "month, day, year: 11/24/2026, 11-24-26, Nov 24, 2026",
	serial: "a spreadsheet’s count of days: 46350",
};
