import type { Company } from "../company";
import type { DealSeen } from "../dealSeen";
import type { Norms } from "../flags/rule";
import { type Day, weekday } from "../time/day";
import type { Period } from "../time/period";

/** The rest of the week that a day lies in (from the day to its Sunday), and the week after. */
export function weeksAhead(day: Day): readonly [Period, Period] {
	const end = day + ((7 - weekday(day)) % 7);
	return [
		{ start: day, end },
		{ start: end + 1, end: end + 7 },
	];
}

/** Working days that usually remain from a deal's stage, and that its date leaves. */
export interface TooEarly {
	readonly left: number;
	readonly needed: number;
}

/**
 * Whether an open deal stands in a stage too early for its close date: fewer working days are left than half of the won
 * deals needed from first entering its stage, less what it has stood in it already. Null where it doesn't.
 */
export function tooEarly({ rules }: Company, { usual }: Norms, seen: DealSeen, day: Day): TooEarly | null {
	const remaining = usual.stages[seen.stageIndex]?.remaining[50];
	if (!remaining) return null;
	const left = rules.calendar.between(day, seen.close);
	const needed = Math.max(0, Math.round(remaining.days - seen.stageAge));
	return left < needed ? { left, needed } : null;
}
