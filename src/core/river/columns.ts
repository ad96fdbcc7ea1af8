import type { Company, Ledger, LedgerBlock } from "../company";
import { asOf, blockOf, blockSpans, firstRow } from "../history/columns";
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
	const spans = deals.map((deal): [number, number] => [rowFrom(company, deal, first), asOf(history, deal, last) + 1]);
	const amountOf = amountsBase(company, last);
	const rows = spans.reduce((sum, [from, to]) => sum + Math.max(0, to - from), 0);
	const columns = { ...emptyColumns(deals.length, rows), stages: rules.stages, base: rules.rates.base, people: company.people.length };
	let at = 0;
	spans.forEach(([from, to], i) => {
		const deal = deals[i] as number;
		const block = blockOf(history, deal);
		for (let row = from; row < to; row++, at++) {
			columns.day[at] = block.day[row] as number;
			columns.stage[at] = block.stage[row] as number;
			columns.amount[at] = amountOf(deal, row);
			columns.close[at] = block.close[row] as number;
			columns.owner[at] = block.owner[row] as number;
		}
		columns.offsets[i + 1] = at;
	});
	return columns;
}

/** The row from which on a deal's versions are needed: the one in force before, and where that isn't open its last open one too. */
function rowFrom({ history, rules }: Company, deal: number, first: Day): number {
	const block = blockOf(history, deal);
	const start = firstRow(block, deal);
	let row = Math.max(asOf(history, deal, first - 1), start);
	while (row > start && rules.stages[block.stage[row] as number]?.kind !== "open") row--;
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
		history: { blocks: blocksOf(columns) },
	};
}

/** The columns cut into blocks. */
function blocksOf({ offsets, day, stage, amount, close, owner }: RiverColumns): LedgerBlock[] {
	return Array.from(blockSpans(offsets.length - 1), ([first, end]) => {
		const [from, to] = [offsets[first] as number, offsets[end] as number];
		return {
			offsets: offsets.subarray(first, end + 1).map((row) => row - from),
			day: day.subarray(from, to),
			stage: stage.subarray(from, to),
			amount: amount.subarray(from, to),
			close: close.subarray(from, to),
			owner: owner.subarray(from, to),
			currency: new Int16Array(to - from),
		};
	});
}

const emptyColumns = (deals: number, rows: number) => ({
	offsets: new Int32Array(deals + 1),
	day: new Int32Array(rows),
	stage: new Int16Array(rows),
	amount: new Float64Array(rows),
	close: new Int32Array(rows),
	owner: new Int32Array(rows),
});
