import type { Company } from "../company";
import { NONE } from "../history/columns";
import { openRows } from "../inspect";
import type { Day } from "../time/day";

/** What a mark remembers, so that a later correction of history shows: open deals, and their sum by currency in minor units. */
export interface Seal {
	readonly count: number;
	readonly sums: Readonly<Record<string, number>>;
}

/** The seal of a day: currencies in alphabetical order. */
export function sealOn(company: Company, day: Day): Seal {
	const sums = new Map<string, number>();
	const rows = openRows(company, day);
	for (const row of rows) {
		const amount = company.history.amount[row] as number;
		if (Number.isNaN(amount)) continue;
		const index = company.history.currency[row] as number;
		const code = index === NONE ? company.rules.rates.base : (company.rules.currencies[index] as string);
		sums.set(code, (sums.get(code) ?? 0) + amount);
	}
	return { count: rows.length, sums: Object.fromEntries([...sums].sort(([a], [b]) => (a < b ? -1 : 1))) };
}
