import { multiplyRounded } from "../money/decimal";
import type { Period } from "../time/period";

/** A part of a target that falls to a period, in the target's own minor units. */
export interface CarriedPart extends Period {
	readonly amount: number;
}

/**
 * A target's amount by the periods its days lie in: each gets its share of days, rounded half away from zero, and the last
 * the rest, so that the parts add up to the whole.
 *
 * @param target its days and amount, in minor units
 * @param periodOf the period a day lies in; they follow one another without gaps
 * @example
 * // 92 000 for October to December, carried to quarters from February: 31 of 92 days lie in August to October.
 * carriedParts({ start: OCT_1, end: DEC_31, amount: 92_000 }, quarterFromFebruary).map(({ amount }) => amount) // [31_000, 61_000]
 */
export function carriedParts(target: Period & { readonly amount: number }, periodOf: (day: number) => Period): CarriedPart[] {
	const days = target.end - target.start + 1;
	const parts: CarriedPart[] = [];
	let left = target.amount;
	for (let day = target.start; day <= target.end; ) {
		const { start, end } = periodOf(day);
		const until = Math.min(end, target.end);
		const amount = until === target.end ? left : multiplyRounded(target.amount, until - day + 1, days);
		parts.push({ start, end, amount });
		left -= amount;
		day = until + 1;
	}
	return parts;
}
