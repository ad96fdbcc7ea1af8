import { asOf, blockOf } from "@/core/history/columns";
import { parseDay } from "@/core/time/day";
import type { CsvTable } from "@/formats/csv";
import { meantCurrency } from "@/formats/weekly/currencyMarks";
import { type AmountCell, currenciesOf, DECIMAL_MARKS, readMoney } from "@/formats/weekly/money";
import type { WeeklyPlan } from "@/formats/weekly/plan";
import { cellsOf, dealIdOf } from "@/formats/weekly/read";
import type { Context } from "@/platform/context";
import { ratedIn } from "./mapping";
import type { WeeklyView } from "./shapes";

/** The amounts of a file, each with what its deal stood at before the file's day. */
export function amountCells(context: Context, table: CsvTable, plan: Pick<WeeklyPlan, "columns" | "currency" | "scale">, day: string | null): AmountCell[] {
	const { organisation, now } = context;
	const { history, rules } = organisation.company;
	const known = ratedIn(context);
	const currencies = cellsOf(table, plan.columns.currency);
	const before = (parseDay(day ?? "") ?? now.day + 1) - 1;
	return cellsOf(table, plan.columns.amount).flatMap((text, i): AmountCell[] => {
		if (!text.trim()) return [];
		const currency = currencies[i]?.trim().toUpperCase() || (meantCurrency(currenciesOf(text), plan.currency, known) ?? plan.currency);
		const deal = organisation.dealIndex.get(dealIdOf(table, plan.columns, i));
		const row = deal === undefined ? -1 : asOf(history, deal, before);
		const block = blockOf(history, deal ?? 0);
		const amount = row < 0 || rules.currencies[block.currency[row] as number] !== currency ? Number.NaN : (block.amount[row] as number);
		return [{ text, currency, scale: plan.scale, before: Number.isNaN(amount) ? null : amount }];
	});
}

/** What a file's amounts come to by each decimal mark, those of other currencies left out. */
export function totalsOf(table: CsvTable, plan: WeeklyPlan): WeeklyView["amounts"] {
	const currencies = cellsOf(table, plan.columns.currency);
	const cells = cellsOf(table, plan.columns.amount).filter(
		(text, i) =>
			text.trim() &&
			(currencies[i]?.trim().toUpperCase() || plan.currency) === plan.currency &&
			[0, ...currenciesOf(text)].every((code) => code === 0 || code === plan.currency || currenciesOf(text).includes(plan.currency)),
	);
	return DECIMAL_MARKS.map((mark) => {
		const read = cells.map((text) => readMoney(text, mark, plan.currency, { scale: plan.scale, round: true }));
		return {
			mark,
			total: read.reduce<number>((sum, one) => sum + (typeof one === "number" ? one : 0), 0),
			unread: read.filter((one) => typeof one === "string").length,
		};
	});
}

const SAMPLES = 3;

/** The first cells of a column that aren’t blank, each once. */
export function samplesOf(table: CsvTable, name: string): string[] {
	const at = table.header.indexOf(name);
	const samples = new Set<string>();
	for (const { cells } of table.records) {
		const cell = cells[at]?.trim();
		if (cell) samples.add(cell.slice(0, 80));
		if (samples.size === SAMPLES) break;
	}
	return [...samples];
}
