import { sql } from "drizzle-orm";
import { type Day, formatDay, NO_DAY, parseDay, parts } from "@/core/time/day";
import { connection } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { cached } from "@/platform/cached";

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
	/** with whom, by name */
	readonly with: string | null;
}

/** The facts of a day, read once until anything changes. */
export const accountFacts = (organisation: OrganisationState, day: Day): Promise<AccountFacts> =>
	cached(organisation, "account facts", String(day), () => read(organisation, day));

async function read(organisation: OrganisationState, day: Day): Promise<AccountFacts> {
	const [touches, bought] = await Promise.all([lastTouches(organisation, day), purchases(organisation, day)]);
	return { touches, bought };
}

async function lastTouches({ company }: OrganisationState, day: Day): Promise<Map<string, Touch>> {
	const { zone } = company.rules;
	const until = new Date(zone.instantAt(day + 1, 0)).toISOString();
	const { rows } = await connection().db.execute(sql`
		select last.account, last.kind, (extract(epoch from last.at) * 1000)::float8 as at, c.name as contact
		from (
			select distinct on (account) account, kind, at, contact_id from (
				select coalesce(a.account_id, d.account_id) as account, a.id, a.kind, a.at, a.contact_ids[1] as contact_id
				from activities a left join deals d on d.id = a.deal_id
				where a.state = 'done' and a.direction <> 'none' and a.at < ${until}
			) touches where account is not null order by account, at desc, id desc
		) last left join contacts c on c.id = last.contact_id`);
	return new Map(
		rows.map((row) => [String(row.account), { day: zone.dayOf(Number(row.at)), kind: String(row.kind), with: row.contact ? String(row.contact) : null }]),
	);
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
