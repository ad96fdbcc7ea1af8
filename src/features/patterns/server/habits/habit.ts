import { lastPeriods } from "@/core/patterns/quarters";
import { shareWords } from "@/core/statistics/shareWords";
import { type Counted, pOfShares } from "@/core/statistics/toldApart";
import type { Share } from "@/core/statistics/wilson";
import { shareOf } from "@/core/statistics/wilson";
import type { Day } from "@/core/time/day";
import type { Context } from "@/platform/context";
import type { Looking } from "../book";

/** Whose habits, and up to which day. */
export interface HabitGround {
	readonly context: Context;
	/** by id, and index */
	readonly personId: string;
	readonly owner: number;
	readonly day: Day;
	readonly look: Looking;
}

/** One figure of somebody’s past beside the same of all others. */
export interface HabitRow {
	readonly label: string;
	readonly own: string;
	readonly others: string;
	/** of the test that suits the figure; null where there are too few on either side */
	readonly p: number | null;
	/** whether theirs is the better one; null where neither is */
	readonly better: boolean | null;
}

/** A figure, or some of a kind: a file, and a line in the list. */
export interface HabitKind {
	/** where in Patterns it is for everybody; null where it isn’t */
	readonly place: string | null;
	readonly rows: (ground: HabitGround) => readonly HabitRow[] | Promise<readonly HabitRow[]>;
}

/** Makes a kind of habit. */
export const habit = (given: HabitKind): HabitKind => given;

const shareSaid = ({ k, n }: Counted): Share => shareOf(k, n);

/** A row of two shares; the higher one is better. Nothing where neither side has anything. */
export function shareRow(label: string, own: Counted, others: Counted, higherIsBetter = true): HabitRow[] {
	if (!own.n && !others.n) return [];
	const [mine, rest] = [shareSaid(own), shareSaid(others)];
	return [{ label, own: shareWords(mine), others: shareWords(rest), p: pOfShares(own, others), better: betterOf(mine.share, rest.share, higherIsBetter) }];
}

/** Whether one number is the better of two. */
export function betterOf(own: number | null, others: number | null, higherIsBetter: boolean): boolean | null {
	if (own === null || others === null || own === others) return null;
	return own > others === higherIsBetter;
}

/** The quarters that are looked back at. */
export const quartersOf = ({ context, look, day }: HabitGround) => lastPeriods(context.organisation.company, "quarter", day, look.quarters, look.lead);
