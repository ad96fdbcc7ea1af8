import type { Company } from "../company";
import type { DealSeen } from "../dealSeen";
import type { Norms } from "../flags/rule";
import { categoryOf } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import { workingDays } from "../time/words";
import { tooEarly } from "./dueSoon";

/** What an open deal needs when its period is about to end. */
export const NEEDS = ["date", "close", "left"] as const;
export type Need = (typeof NEEDS)[number];

/** A deal with what it needs, and why, in words. */
export interface Needing {
	readonly need: Need;
	readonly words: string;
}

/**
 * What an open deal needs in the last days of a period: a date, where it is overdue, has none, or stands in a stage too
 * early for the one it has; nothing, where its rep has left it out; else to be closed.
 */
export function needOf(company: Company, norms: Norms, seen: DealSeen, day: Day): Needing {
	const { calendar, stages } = company.rules;
	if (seen.close === NO_DAY) return { need: "date", words: "has no close date" };
	if (seen.close < day) return { need: "date", words: `overdue for ${workingDays(calendar.between(seen.close, day))}` };
	if (categoryOf(company, seen) === "left_out") return { need: "left", words: "left out by its rep" };
	const stage = stages[seen.stageIndex]?.name ?? "";
	const early = tooEarly(company, norms, seen, day);
	if (early) return { need: "date", words: `${stage} is early: ${workingDays(early.needed)} usually remain, ${early.left} are left` };
	return { need: "close", words: `${stage}, ${workingDays(Math.max(0, calendar.between(day, seen.close)))} left` };
}
