import { multiplyRounded } from "@/core/money/decimal";
import { dayNumber } from "@/ui/format";
import type { TargetRow, TargetsView } from "../server/targets";
import { typedOf } from "../table/grid";

/** The key of a cell: whose, and of which quarter. */
export const keyOf = (personId: string, start: string) => `${personId}\n${start}`;

/** What targets of other days count in a cell. */
export type Beside = ReturnType<typeof countedBeside>;

/** The sum of amounts, 0 of none. */
export const sum = (amounts: readonly number[]) => amounts.reduce((total, amount) => total + amount, 0);

/** An amount of another currency in minor units of the base: `rates` are minor units of the base for one of the other. */
export const inBase = (amount: number, currency: string, view: TargetsView): number => Math.round(amount * (view.rates[currency] ?? 0));

/** What stands in the cells of a family, and the targets of other days, which no cell holds. */
export function gridOf(view: TargetsView, family: string): { texts: ReadonlyMap<string, string>; others: readonly TargetRow[] } {
	const own = view.targets.filter((target) => target.family === family);
	const isQuarter = (target: TargetRow) => view.quarters.some(({ start, end }) => start === target.start && end === target.end);
	return {
		texts: new Map(own.filter(isQuarter).map((target) => [keyOf(target.personId, target.start), typedOf(target.amount, target.currency, view.currency)])),
		others: own.filter((target) => !isQuarter(target) && target.end >= (view.quarters[0]?.start ?? "")),
	};
}

/** What targets of other days count in somebody's quarter already, each by the days it shares with it; base minor units. */
export function countedBeside(others: readonly TargetRow[], personId: string, quarter: { readonly start: string; readonly end: string }) {
	return others.flatMap((row) => {
		const [from, to] = [row.start > quarter.start ? row.start : quarter.start, row.end < quarter.end ? row.end : quarter.end];
		if (row.personId !== personId || from > to) return [];
		const days = (a: string, b: string) => dayNumber(b) - dayNumber(a) + 1;
		return [{ row, part: multiplyRounded(row.base, days(from, to), days(row.start, row.end)) }];
	});
}
