import { multiplyRounded } from "../money/decimal";
import type { Day } from "../time/day";
import type { Period } from "../time/period";

/** A target's days and amount, in its own minor units. */
export interface DatedAmount extends Period {
	readonly amount: number;
}

/**
 * Parts a target on a day: what lies before it, and what lies from it on, each with its share by calendar days. The first is
 * rounded half away from zero and the second is the rest, so that both add up to the whole. A part without days is null.
 *
 * @example splitTarget({ start: 1, end: 92, amount: 92_000 }, 62).before // {"start":1,"end":61,"amount":61000}
 */
export function splitTarget({ start, end, amount }: DatedAmount, day: Day): { readonly before: DatedAmount | null; readonly after: DatedAmount | null } {
	if (day <= start) return { before: null, after: { start, end, amount } };
	if (day > end) return { before: { start, end, amount }, after: null };
	const first = multiplyRounded(amount, day - start, end - start + 1);
	return { before: { start, end: day - 1, amount: first }, after: { start: day, end, amount: amount - first } };
}
