import { sql } from "drizzle-orm";
import type { Closed } from "@/core/patterns/closed";
import type { Late, PricedLine } from "@/core/patterns/priced";
import { rankSum } from "@/core/statistics/rankSum";
import { toldApart } from "@/core/statistics/toldApart";
import { connection } from "@/data/db";
import { dealLines } from "@/data/schema";
import type { Context } from "@/platform/context";

/** A line of a won deal by its product. */
export interface Line extends PricedLine {
	readonly product: string;
}

/** The share of the amount that went in the last two weeks; below zero where it grew. */
export function awayOf(list: readonly Late[]): number {
	const before = list.reduce((sum, one) => sum + one.before, 0);
	return before ? 1 - list.reduce((sum, one) => sum + one.after, 0) / before : 0;
}

/** The lines with a list price of deals that were won, by the rates of the day they were won. */
export async function linesOf({ organisation }: Context, won: readonly Closed[]): Promise<Line[]> {
	const wonOn = new Map(won.map(({ seen, day }) => [seen.deal, day]));
	const ids = won.flatMap(({ seen }) => organisation.deals[seen.deal]?.id ?? []);
	if (!ids.length) return [];
	const rows = await connection()
		.db.select({
			dealId: dealLines.dealId,
			product: dealLines.product,
			quantity: dealLines.quantity,
			list: dealLines.listPrice,
			unit: dealLines.unitPrice,
			currency: dealLines.currency,
		})
		.from(dealLines)
		.where(sql`${dealLines.dealId} in (select jsonb_array_elements_text(${JSON.stringify(ids)}::jsonb))`);
	return rows.flatMap(({ dealId, product, quantity, list, unit, currency }) => {
		const deal = organisation.dealIndex.get(dealId);
		const { rates } = organisation.company.rules;
		if (deal === undefined || list === null || unit === null || quantity === null) return [];
		const base = (minor: number) => (currency ? rates.toBase(minor, currency, wonOn.get(deal) ?? 0) : minor);
		return [{ deal, product: product ?? "", quantity: Number(quantity), list: base(list), unit: base(unit) }];
	});
}

/** The part of its amount that one deal lost. */
export const lostOf = ({ before, after }: Late): number => 1 - after / before;

/** Who gives away more than the others in the last two weeks, by more than chance would have it, deal by deal; the most first. */
export function givesAway(groups: readonly (readonly [id: string, own: readonly Late[]])[]) {
	const all = groups.flatMap(([, own]) => own);
	const rows = groups.map(([id, own]) => {
		const others = all.filter((one) => !own.includes(one));
		return { id, away: awayOf(own), others: awayOf(others), p: rankSum(own.map(lostOf), others.map(lostOf)) };
	});
	const verdicts = toldApart(rows.map(({ p }) => p));
	return rows.filter(({ away, others }, i) => verdicts[i] && away > others).sort((a, b) => b.away - a.away);
}
