import type { Company } from "../company";
import { asOf } from "../history/columns";
import { type DealSeen, inspect, normsOn, openRows } from "../inspect";
import { keeperBy } from "../keep";
import { NO_DAY } from "../time/day";
import type { Looked } from "./quarters";

/** A deal that was open and due in a period on the day looked at, as it was seen then, and whether it was won in time. */
export interface Due {
	readonly seen: DealSeen;
	readonly won: boolean;
	/** the row of its version at the period's end; −1 where it was gone */
	readonly endRow: number;
}

/**
 * The deals open and due in a period on the day that is looked at, inspected by what was known then and today's rules; and
 * whether each was won by the period's end, as seen on it. Kept with the company.
 */
export const dueIn = (company: Company, { period, day }: Looked): readonly Due[] => kept(company, `${period.start} ${period.end} ${day}`);

const kept = keeperBy((company: Company, key: string): readonly Due[] => {
	const [start = 0, end = 0, day = 0] = key.split(" ").map(Number);
	const { history, rules } = company;
	const norms = normsOn(company, day);
	return openRows(company, day).flatMap((row) => {
		const close = history.close[row] as number;
		if (close === NO_DAY || close < start || close > end) return [];
		const deal = dealOf(company, row);
		const seen = inspect(company, deal, norms);
		if (!seen) return [];
		const endRow = asOf(history, deal, end);
		return [{ seen, endRow, won: endRow >= 0 && rules.stages[history.stage[endRow] as number]?.kind === "won" }];
	});
});

/** The deal to which a row of the history belongs. */
function dealOf({ history: { offsets } }: Company, row: number): number {
	let low = 0;
	let high = offsets.length - 1;
	while (low < high - 1) {
		const middle = (low + high) >> 1;
		if ((offsets[middle] as number) <= row) low = middle;
		else high = middle;
	}
	return low;
}
