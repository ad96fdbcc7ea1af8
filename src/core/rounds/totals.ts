import type { Period } from "../time/period";
import { isWithin } from "./call";
import { type Called, callKind } from "./calls";

/** An open deal as a round counts it. */
export interface Counting {
	/** index of the owner, or NONE */
	readonly owner: number;
	/** base minor units */
	readonly amount: number;
	readonly close: number;
	readonly category: string;
	/** null as long as nobody has called it */
	readonly called: Called | null;
}

/** What a period comes to by the reps' word and by the calls, beside what is won. Base minor units. */
export interface Totals {
	/** won, and what reps have in commit */
	readonly byWord: number;
	/** won, what is called to close in the period, and of what isn't called the rep's word */
	readonly byCalls: number;
	/** called shaky: in neither, unless it is still in commit by the rep's word */
	readonly shaky: number;
	readonly called: number;
}

/**
 * What a rep says of a deal: it counts in the period if it is in commit and due then.
 *
 * @example countsByWord({ start: 1, end: 9 }, { owner: 0, amount: 7, close: 9, category: "commit", called: null }) // 7
 */
export const countsByWord = (period: Period, { category, close, amount }: Counting): number => (category === "commit" && isWithin(period, close) ? amount : 0);

/**
 * What the calls say of it; a deal without a call counts by the rep’s word.
 *
 * @example countsByCall({ start: 1, end: 9 }, { owner: 0, amount: 7, close: 9, category: "commit", called: { call: "gone", to: 0 } }) // 0
 */
export function countsByCall(period: Period, deal: Counting): number {
	if (!deal.called) return countsByWord(period, deal);
	return callKind(deal.called.call).counts(period, deal.called.to) ? deal.amount : 0;
}

/** Adds up what a period comes to; it adds up over people. */
export function totalsOf(period: Period, won: number, deals: Iterable<Counting>): Totals {
	let [byWord, byCalls, shaky, called] = [won, won, 0, 0];
	for (const deal of deals) {
		byWord += countsByWord(period, deal);
		byCalls += countsByCall(period, deal);
		if (deal.called) called++;
		if (deal.called && callKind(deal.called.call).beside) shaky += deal.amount;
	}
	return { byWord, byCalls, shaky, called };
}

/** How far the calls lie from somebody's word. */
export interface Difference {
	readonly owner: number;
	readonly byWord: number;
	readonly byCalls: number;
}

/** By owner how far the calls are from the reps' word, the farthest first; those who agree are left out. */
export function differences(period: Period, deals: Iterable<Counting>): Difference[] {
	const byOwner = new Map<number, { byWord: number; byCalls: number }>();
	for (const deal of deals) {
		const own = byOwner.get(deal.owner) ?? { byWord: 0, byCalls: 0 };
		own.byWord += countsByWord(period, deal);
		own.byCalls += countsByCall(period, deal);
		byOwner.set(deal.owner, own);
	}
	const gap = ({ byWord, byCalls }: Difference) => Math.abs(byWord - byCalls);
	return [...byOwner]
		.map(([owner, own]) => ({ owner, ...own }))
		.filter((one) => gap(one) > 0)
		.sort((a, b) => gap(b) - gap(a) || a.owner - b.owner);
}
