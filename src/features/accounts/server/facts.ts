import { inArray, sql } from "drizzle-orm";
import { isTouch } from "@/core/contact/contact";
import { derive } from "@/core/derive";
import { type Day, formatDay, NO_DAY, parseDay, parts } from "@/core/time/day";
import { connection } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { contacts } from "@/data/schema";

/** What is known of each account that isn't kept in memory, as of the end of a day. */
export interface AccountFacts {
	readonly touches: ReadonlyMap<string, Touch>;
	/** base minor units bought in the fiscal year of the day and in the one before */
	readonly bought: ReadonlyMap<string, readonly [number, number]>;
}

/** The last contact with an account. */
export interface Touch {
	readonly day: Day;
	readonly kind: string;
	readonly at: number;
	/** the activity, which settles ties */
	readonly id: string;
	/** with whom, by id */
	readonly contact: string | null;
}

/** The facts of a day. What belongs to no deal is read once until an import brings more of it. */
export async function accountFacts(organisation: OrganisationState, day: Day): Promise<AccountFacts> {
	const [touches, bought] = await Promise.all([
		lastTouches(organisation, day),
		derive(organisation.accounts, "purchases", String(day), () => purchases(organisation, day)),
	]);
	return { touches, bought };
}

async function lastTouches(organisation: OrganisationState, day: Day): Promise<ReadonlyMap<string, Touch>> {
	const dealless = await derive(organisation.accounts, "touches of no deal", String(day), () => touchesOfNoDeal(organisation, day));
	return derive(organisation.company, "last touches", String(day), () => {
		const last = new Map(dealless);
		organisation.company.deals.forEach(({ activities }, deal) => {
			const account = organisation.deals[deal]?.accountId;
			if (!account) return;
			for (const one of activities) {
				if (!isTouch(one) || one.day > day) continue;
				const known = last.get(account);
				if (known && (known.at > one.at || (known.at === one.at && known.id > one.id))) continue;
				last.set(account, { day: one.day, kind: one.kind, at: one.at, id: one.id, contact: one.contacts[0] ?? null });
			}
		});
		return last;
	});
}

async function touchesOfNoDeal({ company }: OrganisationState, day: Day): Promise<Map<string, Touch>> {
	const { zone } = company.rules;
	const until = new Date(zone.instantAt(day + 1, 0)).toISOString();
	const { rows } = await connection().db.execute(sql`
		select distinct on (account_id) account_id, id, kind, (extract(epoch from at) * 1000)::float8 as at, contact_ids[1] as contact from activities
		where deal_id is null and account_id is not null and state = 'done' and direction <> 'none' and at < ${until}
		order by account_id, activities.at desc, id collate "C" desc`);
	return new Map(
		rows.map((row) => [
			String(row.account_id),
			{ day: zone.dayOf(Number(row.at)), kind: String(row.kind), at: Number(row.at), id: String(row.id), contact: row.contact ? String(row.contact) : null },
		]),
	);
}

/** Names of some contacts, by id. */
export async function contactNames(ids: readonly string[]): Promise<Map<string, string>> {
	if (!ids.length) return new Map();
	const rows = await connection()
		.db.select({ id: contacts.id, name: contacts.name })
		.from(contacts)
		.where(inArray(contacts.id, [...ids]));
	return new Map(rows.map((row) => [row.id, row.name]));
}

async function purchases({ company }: OrganisationState, day: Day): Promise<Map<string, [number, number]>> {
	const { rates, fiscalStart } = company.rules;
	const { rows } = await connection().db.execute(
		sql`select account_id, date, amount, currency from orders where amount is not null and date <= ${formatDay(day)}`,
	);
	const year = fiscalYear(day, fiscalStart);
	const bought = new Map<string, [number, number]>();
	for (const order of rows) {
		const ago = year - fiscalYear(parseDay(String(order.date)) ?? NO_DAY, fiscalStart);
		if (ago !== 0 && ago !== 1) continue;
		const sums = bought.get(String(order.account_id)) ?? [0, 0];
		sums[ago] = (sums[ago] as number) + rates.toBase(Number(order.amount), order.currency ? String(order.currency) : rates.base, day);
		bought.set(String(order.account_id), sums);
	}
	return bought;
}

/** The fiscal year a day lies in, by the calendar year it ends in. */
export function fiscalYear(day: Day, start: number): number {
	const { year, month } = parts(day);
	return start > 1 && month >= start ? year + 1 : year;
}
