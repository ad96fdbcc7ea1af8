import type { Company, Ledger } from "../company";
import { asOf } from "../history/columns";
import type { Stage } from "../history/stage";
import { amountsBase } from "../inspect";
import { makeRates } from "../money/rates";
import type { Day } from "../time/day";

/** Some deals' versions from a day on as plain columns that can be handed to another thread; amounts are in base minor units already. */
export interface RiverColumns {
	readonly stages: readonly Stage[];
	readonly base: string;
	readonly people: number;
	readonly offsets: Int32Array;
	readonly day: Int32Array;
	readonly stage: Int16Array;
	readonly amount: Float64Array;
	readonly close: Int32Array;
	readonly owner: Int32Array;
}

/** The versions of some deals: the one in force before `first` and all after it up to `last`, at the rates of `last`. */
export function riverColumns(company: Company, deals: readonly number[], first: Day, last: Day): RiverColumns {
	const { history, rules } = company;
	const spans = deals.map((deal): [number, number] => [firstRow(company, deal, first), asOf(history, deal, last) + 1]);
	const amountOf = amountsBase(company, last);
	const rows = spans.reduce((sum, [from, to]) => sum + Math.max(0, to - from), 0);
	const columns = { ...emptyColumns(deals.length, rows), stages: rules.stages, base: rules.rates.base, people: company.people.length };
	let at = 0;
	spans.forEach(([from, to], i) => {
		for (let row = from; row < to; row++, at++) {
			columns.day[at] = history.day[row] as number;
			columns.stage[at] = history.stage[row] as number;
			columns.amount[at] = amountOf(row);
			columns.close[at] = history.close[row] as number;
			columns.owner[at] = history.owner[row] as number;
		}
		columns.offsets[i + 1] = at;
	});
	return columns;
}

/** The row from which on a deal's versions are needed: the one in force before, and where that isn't open its last open one too. */
function firstRow({ history, rules }: Company, deal: number, first: Day): number {
	const start = history.offsets[deal] as number;
	let row = Math.max(asOf(history, deal, first - 1), start);
	while (row > start && rules.stages[history.stage[row] as number]?.kind !== "open") row--;
	return row;
}

/** The same of some of the deals, which are named by their new places then. */
export function takeDeals(columns: RiverColumns, deals: readonly number[]): RiverColumns {
	const { offsets } = columns;
	const rows = deals.reduce((sum, deal) => sum + (offsets[deal + 1] as number) - (offsets[deal] as number), 0);
	const taken = { ...columns, ...emptyColumns(deals.length, rows) };
	let at = 0;
	deals.forEach((deal, i) => {
		const [from, to] = [offsets[deal] as number, offsets[deal + 1] as number];
		for (const name of ["day", "stage", "amount", "close", "owner"] as const) taken[name].set(columns[name].subarray(from, to) as never, at);
		at += to - from;
		taken.offsets[i + 1] = at;
	});
	return taken;
}

/** What the comparisons of moments read, from columns. */
export function ledgerOf(columns: RiverColumns): Ledger {
	return {
		rules: { stages: columns.stages, currencies: [columns.base], rates: makeRates(columns.base, []) },
		deals: { length: columns.offsets.length - 1 },
		people: { length: columns.people },
		history: { ...columns, currency: new Int16Array(columns.day.length) },
	};
}

const emptyColumns = (deals: number, rows: number) => ({
	offsets: new Int32Array(deals + 1),
	day: new Int32Array(rows),
	stage: new Int16Array(rows),
	amount: new Float64Array(rows),
	close: new Int32Array(rows),
	owner: new Int32Array(rows),
});
