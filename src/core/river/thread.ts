import { membership, type Scope } from "../bridge/scope";
import type { Ledger } from "../company";
import { asOf, blockOf, endRow, firstRow } from "../history/columns";
import { amountsBase } from "../inspect";
import { type Day, NO_DAY } from "../time/day";
import type { Period } from "../time/period";

/** A deal's place in a band on a day: `below` is the amount of the deals before it in the same stage. Base minor units. */
export interface Standing {
	readonly deal: number;
	readonly stage: number;
	readonly amount: number;
	readonly below: number;
}

/** Every deal that is open on a day in a period and scope, in the order of deals, each on top of those before it in its stage. */
export function standing(ledger: Ledger, day: Day, period: Period, scope: Scope): Standing[] {
	const open = ledger.rules.stages.map((s) => s.kind === "open");
	const heights = ledger.rules.stages.map(() => 0);
	const amountOf = amountsBase(ledger, day);
	const isHere = membership(ledger, period, scope);
	const found: Standing[] = [];
	for (let deal = 0; deal < ledger.deals.length; deal++) {
		const row = asOf(ledger.history, deal, day);
		const block = blockOf(ledger.history, deal);
		const at = row < 0 ? -1 : (block.stage[row] as number);
		if (!open[at] || !isHere(block, row)) continue;
		const amount = amountOf(deal, row);
		const below = heights[at] as number;
		found.push({ deal, stage: at, amount, below });
		heights[at] = below + amount;
	}
	return found;
}

/** A close date moved later while the deal was in: the day it was done, what the deal was worth then, and from where to where. */
export interface Push {
	readonly deal: number;
	readonly day: Day;
	readonly amount: number;
	readonly from: Day;
	readonly to: Day;
}

/** All pushes of a span by day-ends, of deals that were in the period and scope before. */
export function pushesOf(ledger: Ledger, first: Day, last: Day, period: Period, scope: Scope): Push[] {
	const open = ledger.rules.stages.map((s) => s.kind === "open");
	const amountOf = amountsBase(ledger, last);
	const isHere = membership(ledger, period, scope);
	const found: Push[] = [];
	for (let deal = 0; deal < ledger.deals.length; deal++) {
		const block = blockOf(ledger.history, deal);
		const { day, stage, close } = block;
		// the last day-end with a close date: a blank in between is no way around a push
		let dated = -1;
		for (let row = firstRow(block, deal); row < endRow(block, deal); row++) {
			if (row + 1 < endRow(block, deal) && day[row + 1] === day[row]) continue;
			const [on, to] = [day[row] as number, close[row] as number];
			if (to === NO_DAY) continue;
			const from = dated < 0 ? NO_DAY : (close[dated] as number);
			const both = from !== NO_DAY && open[stage[dated] as number] && open[stage[row] as number];
			if (both && to > from && on >= first && on <= last && isHere(block, dated)) found.push({ deal, day: on, amount: amountOf(deal, row), from, to });
			dated = row;
		}
	}
	return found;
}
