import { sql } from "drizzle-orm";
import { type Bought, boughtBy, type Order } from "@/core/accounts/bought";
import { type FamiliesBought, familiesBought } from "@/core/accounts/neverBought";
import { derive, keyOf } from "@/core/derive";
import { type Day, parseDay } from "@/core/time/day";
import { yearOf } from "@/core/time/fiscal";
import { connection } from "@/data/db";
import { accountsOn } from "@/data/organisation/former";
import type { OrganisationState } from "@/data/organisation/state";

/** All orders by account, read once until an import brings more of them. */
export const ordersByAccount = ({ accounts, company }: OrganisationState): Promise<ReadonlyMap<string, readonly Order[]>> =>
	derive(accounts, "orders", "", async () => {
		const { rows } = await connection().db.execute(
			sql`select account_id, date::text as date, product, amount, currency from orders where amount is not null order by account_id, ordinal`,
		);
		const found = new Map<string, Order[]>();
		for (const row of rows) {
			const day = parseDay(String(row.date));
			if (day === null) continue;
			const account = String(row.account_id);
			const order = {
				account,
				day,
				product: String(row.product ?? ""),
				amount: Number(row.amount),
				currency: String(row.currency ?? company.rules.rates.base),
			};
			const known = found.get(account);
			if (known) known.push(order);
			else found.set(account, [order]);
		}
		return found;
	});

/** What each account bought, seen on a day, at its rates; base minor units. */
export interface Purchases {
	readonly bought: ReadonlyMap<string, Bought>;
	/** in the fiscal year of the day and in the one before */
	readonly inYears: ReadonlyMap<string, readonly [number, number]>;
}

export const purchasesOn = async (organisation: OrganisationState, day: Day): Promise<Purchases> => {
	const orders = await ordersByAccount(organisation);
	const { rates, fiscal } = organisation.company.rules;
	return derive(orders, "purchases", keyOf(day, organisation.company.rules), () => {
		const year = yearOf(day, fiscal);
		const before = yearOf(year.start - 1, fiscal);
		const bought = new Map<string, Bought>();
		const inYears = new Map<string, readonly [number, number]>();
		for (const [account, own] of orders) {
			bought.set(account, boughtBy(own, day, rates));
			const sum = (start: Day, end: Day) =>
				own.reduce((all, one) => (one.day >= start && one.day <= Math.min(end, day) ? all + rates.toBase(one.amount, one.currency, day) : all), 0);
			inYears.set(account, [sum(year.start, year.end), sum(before.start, before.end)]);
		}
		return { bought, inYears };
	});
};

/** Which families the products of the deals’ lines are of, and what accounts alike bought of each by a day. */
export async function familiesOn(organisation: OrganisationState, day: Day): Promise<FamiliesBought> {
	const { accounts } = organisation;
	const orders = await ordersByAccount(organisation);
	const familyOf = await derive(accounts, "families of products", "", async () => {
		const { rows } = await connection().db.execute(sql`select distinct product, family from deal_lines where product is not null and family is not null`);
		const found = new Map<string, Set<string>>();
		for (const row of rows) found.set(String(row.product), (found.get(String(row.product)) ?? new Set()).add(String(row.family)));
		return found;
	});
	const then = accountsOn(organisation, day);
	return derive(orders, "families bought", keyOf(day, then), () => familiesBought(then.values(), [...orders.values()].flat(), day, familyOf));
}
