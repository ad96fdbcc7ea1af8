import type { Rates } from "../money/rates";
import type { Day } from "../time/day";
import { type Fiscal, yearOf, yearWords } from "../time/fiscal";

/** Something an account bought: amount in minor units of its currency. */
export interface Order {
	readonly account: string;
	readonly day: Day;
	/** empty where none is named */
	readonly product: string;
	readonly amount: number;
	readonly currency: string;
}

/** What was bought in the last 365 days and in the 365 before them; base minor units. */
export interface Bought {
	readonly last365: number;
	readonly before365: number;
	/** last365 / before365; null where nothing was bought before */
	readonly trend: number | null;
}

const YEAR = 365;
/** so many days back purchases are looked at, in all */
export const TWO_YEARS = 2 * YEAR;

/** What some orders come to on a day, at its rates: over (day − 365, day] and (day − 730, day − 365]. */
export function boughtBy(orders: Iterable<Order>, seen: Day, rates: Pick<Rates, "toBase">): Bought {
	let [last365, before365] = [0, 0];
	for (const { day, amount, currency } of orders) {
		if (day > seen || day <= seen - TWO_YEARS) continue;
		const base = rates.toBase(amount, currency, seen);
		if (day > seen - YEAR) last365 += base;
		else before365 += base;
	}
	return { last365, before365, trend: before365 === 0 ? null : last365 / before365 };
}

/**
 * Whether an account is at risk: it bought in the last 730 days, and buys less than a share of the year before, or wasn't
 * spoken to for longer than the last band, or ever.
 *
 * @param silent calendar days since the last contact; null: never
 * @param share below which a trend is a risk, such as 0.7
 * @param longest the upper end of the last band, calendar days
 * @example isAtRisk({ last365: 28_000, before365: 40_000, trend: 0.7 }, 91, { share: 0.7, longest: 91 }) // false
 */
export function isAtRisk(
	{ last365, before365, trend }: Bought,
	silent: number | null,
	{ share, longest }: { readonly share: number; readonly longest: number },
): boolean {
	if (last365 + before365 <= 0) return false;
	return (trend !== null && trend < share) || silent === null || silent > longest;
}

/** What was bought in a fiscal year, the most of it first. */
export interface BoughtYear {
	readonly year: string;
	readonly from: Day;
	readonly amount: number;
	readonly products: readonly { readonly product: string; readonly amount: number }[];
}

/** What some orders up to a day come to by fiscal year, the newest first, and product; base minor units at the day's rates. */
export function boughtYears(orders: Iterable<Order>, seen: Day, rates: Pick<Rates, "toBase">, fiscal: Fiscal): BoughtYear[] {
	const years = new Map<Day, Map<string, number>>();
	for (const { day, product, amount, currency } of orders) {
		if (day > seen) continue;
		const { start } = yearOf(day, fiscal);
		const products = years.get(start) ?? new Map<string, number>();
		years.set(start, products);
		products.set(product, (products.get(product) ?? 0) + rates.toBase(amount, currency, seen));
	}
	return [...years]
		.sort(([a], [b]) => b - a)
		.map(([from, products]) => ({
			year: yearWords(from, fiscal),
			from,
			amount: [...products.values()].reduce((sum, one) => sum + one, 0),
			products: [...products].map(([product, amount]) => ({ product, amount })).sort((a, b) => b.amount - a.amount || (a.product < b.product ? -1 : 1)),
		}));
}
