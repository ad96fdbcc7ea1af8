import { type Group, totals } from "./groups";
import type { DealRow } from "./row";

/** The days of a period, ISO; null where it has none at an end. */
export interface Bounds {
	readonly start: string | null;
	readonly end: string | null;
}

/** Whether a row of a list of open deals is there because it is carried over: its close date isn’t one of the period’s days. */
export const isCarriedRow = ({ status, close }: DealRow, { start, end }: Bounds): boolean =>
	status === "open" && close !== null && ((start !== null && close < start) || (end !== null && close > end));

/** Rows of open deals in the part that is due and the part that is carried over, each in the order in which they come. */
export function partedBy(rows: readonly DealRow[], due: Bounds): { due: readonly DealRow[]; carried: readonly DealRow[] } {
	const parts = { due: [] as DealRow[], carried: [] as DealRow[] };
	for (const row of rows) parts[isCarriedRow(row, due) ? "carried" : "due"].push(row);
	return parts;
}

/** The groups of a table, what is carried over first; null where nothing is, and nothing is grouped. `label` is the period in words. */
export function withCarried(carried: readonly DealRow[], due: readonly DealRow[], groups: readonly Group[] | null, label: string): readonly Group[] | null {
	if (!carried.length) return groups;
	const of = (name: string, rows: readonly DealRow[]): Group => ({ name, rows, ...totals(rows) });
	return [of("Carried over, undecided", carried), ...(groups ?? (due.length ? [of(`Due in ${label}`, due)] : []))];
}
