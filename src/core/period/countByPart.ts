import { ownerIn, type Scope } from "../bridge/scope";
import type { Company } from "../company";
import type { DealSeen } from "../dealSeen";
import type { Inspected } from "../inspect";
import type { Day } from "../time/day";
import type { Period } from "../time/period";
import { count, forEachOf } from "./countByOwner";
import { type Counted, type Tally, tally } from "./counted";

/** A part that a deal belongs to, with its weight among the deal's parts; alone it has all of the deal. */
export interface Share<K> {
	readonly part: K;
	readonly weight: number;
}

/**
 * The same by other parts, of the deals of some people. A deal of several parts counts in each of them, with its share
 * of the amount: the shares of a deal add up to its amount exactly.
 */
export function countByPart<K>(
	company: Company,
	survey: Inspected,
	period: Period,
	ratesOn: Day,
	scope: Scope,
	partsOf: (seen: DealSeen) => readonly Share<K>[],
): ReadonlyMap<K, Counted> {
	const parts = new Map<K, Tally>();
	forEachOf(company, survey, period, ratesOn, (seen, kind, amount) => {
		if (!ownerIn(scope, seen.owner)) return;
		const shares = partsOf(seen);
		const amounts = splitBy(
			amount,
			shares.map(({ weight }) => weight),
		);
		shares.forEach(({ part }, i) => {
			const own = parts.get(part) ?? tally();
			parts.set(part, own);
			count(company, own, seen, kind, amounts[i] ?? 0);
		});
	});
	return parts;
}

/**
 * Splits an amount of minor units by weights (≥ 0), equally where all are 0; the parts add up to it. What rounding
 * leaves over goes to the largest remainders.
 *
 * @example splitBy(100, [1, 1, 1]) // [34, 33, 33]
 */
export function splitBy(amount: number, weights: readonly number[]): number[] {
	if (weights.length === 1) return [amount];
	const sum = weights.reduce((total, weight) => total + weight, 0);
	const exact = weights.map((weight) => (sum > 0 ? (amount * weight) / sum : amount / weights.length));
	const parts = exact.map(Math.floor);
	let left = amount - parts.reduce((total, part) => total + part, 0);
	const order = exact.map((value, i) => ({ i, rest: value - Math.floor(value) })).sort((a, b) => b.rest - a.rest || a.i - b.i);
	for (const { i } of order) {
		if (left <= 0) break;
		parts[i] = (parts[i] ?? 0) + 1;
		left--;
	}
	return parts;
}
