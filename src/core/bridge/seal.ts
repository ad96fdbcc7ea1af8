import type { Company } from "../company";
import { asOfInstant, blockOf, NONE } from "../history/columns";

/** What a mark remembers, so that a later correction of history shows: open deals, and their sum by currency in minor units. */
export interface Seal {
	readonly count: number;
	readonly sums: Readonly<Record<string, number>>;
}

/** The seal of an instant (ms since the epoch): currencies in alphabetical order. */
export function sealAt(company: Company, at: number): Seal {
	const sums = new Map<string, number>();
	let count = 0;
	for (let deal = 0; deal < company.deals.length; deal++) {
		const row = asOfInstant(company.history, deal, at);
		const block = blockOf(company.history, deal);
		if (row < 0 || company.rules.stages[block.stage[row] as number]?.kind !== "open") continue;
		count++;
		const amount = block.amount[row] as number;
		if (Number.isNaN(amount)) continue;
		const index = block.currency[row] as number;
		const code = index === NONE ? company.rules.rates.base : (company.rules.currencies[index] as string);
		sums.set(code, (sums.get(code) ?? 0) + amount);
	}
	return { count, sums: Object.fromEntries([...sums].sort(([a], [b]) => (a < b ? -1 : 1))) };
}

/**
 * Whether history is still as it was when the seal was made.
 *
 * @example fits({ count: 2, sums: { EUR: 100 } }, { count: 2, sums: { EUR: 100, GBP: 0 } }) // true
 */
export function fits(seal: Seal, now: Seal): boolean {
	const codes = new Set([...Object.keys(seal.sums), ...Object.keys(now.sums)]);
	return seal.count === now.count && [...codes].every((code) => (seal.sums[code] ?? 0) === (now.sums[code] ?? 0));
}
