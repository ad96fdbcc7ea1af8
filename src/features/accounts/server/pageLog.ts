import { sql } from "drizzle-orm";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import type { Context } from "@/platform/context";
import { dealName, personName } from "@/platform/names";
import { dealsReached } from "@/platform/reachAccount";
import { contactNames } from "./facts";
import { type LogFilter, narrowed, wordsAsked } from "./logFilter";

/** Something of an account’s log as its page tells of it. */
export interface PageEntry {
	readonly id: string;
	readonly day: string;
	/** of an activity its kind; `note`, `order`, `deal` else */
	readonly kind: string;
	readonly direction: string | null;
	readonly planned: boolean;
	/** it was planned and won’t take place */
	readonly dropped: boolean;
	readonly subject: string;
	readonly body: string | null;
	readonly by: string | null;
	readonly contacts: readonly string[];
	readonly deal: { readonly id: string; readonly name: string } | null;
	/** minor units, of an order or a deal */
	readonly amount: { readonly minor: number; readonly currency: string } | null;
}

interface Raw extends Omit<PageEntry, "day" | "by" | "contacts" | "deal"> {
	readonly at: number;
	readonly byId: string | null;
	readonly contactIds: readonly string[];
	readonly dealId: string | null;
}

/**
 * All that was said and done at an account, as known on a day, the newest first: activities and notes of the deals that
 * the person asking reaches and of the account itself, orders, and how deals began and ended. Gives so many, and whether there
 * are more.
 */
export async function pageLog(context: Context, account: string, day: Day, filter: LogFilter, limit: number): Promise<{ entries: PageEntry[]; more: boolean }> {
	const { organisation } = context;
	const { zone } = organisation.company.rules;
	const stored = await storedOf(context, account, day, filter, limit + 1);
	const all = [...stored, ...dealsOf(context, account, day, filter)].sort((a, b) => b.at - a.at || (a.id < b.id ? 1 : -1));
	const shown = all.slice(0, limit);
	const names = await contactNames([...new Set(shown.flatMap(({ contactIds }) => contactIds))]);
	return {
		entries: shown.map(({ at, byId, contactIds, dealId, ...one }) => ({
			...one,
			day: formatDay(zone.dayOf(at)),
			by: personName(organisation, byId),
			contacts: contactIds.flatMap((id) => names.get(id) ?? []),
			deal: dealId ? { id: dealId, name: dealName(organisation, organisation.dealIndex.get(dealId) ?? -1) } : null,
		})),
		more: all.length > limit,
	};
}

async function storedOf(context: Context, account: string, day: Day, filter: LogFilter, limit: number): Promise<Raw[]> {
	const { organisation } = context;
	const deals = sql`${sql.param(dealsReached(context, account, day).flatMap((deal) => organisation.deals[deal]?.id ?? []))}::text[]`;
	const until = new Date(organisation.company.rules.zone.instantAt(day + 1, 0)).toISOString();
	const { rows } = await connection().db.execute(sql`
		select *, (extract(epoch from at) * 1000)::float8 as ms from (
			select a.id, a.deal_id, a.kind, a.direction, a.by_id, a.contact_ids, a.subject, a.body, a.dropped_from, null::bigint as amount, null as currency,
				case when a.settled_at >= ${until} then 'planned' else a.state end as state,
				case when a.settled_at >= ${until} then a.planned_for else a.at end as at
			from activities a where (a.deal_id = any(${deals}) or (a.deal_id is null and a.account_id = ${account})) and (a.recorded_at is null or a.recorded_at < ${until})
			union all
			select n.id, n.deal_id, 'note', null, n.by_id, '{}', n.body, null, null, null, null, 'done', n.at from notes n where n.deal_id = any(${deals})
			union all
			select 'order ' || o.ordinal, null, 'order', null, null, '{}', coalesce(o.product, 'Something without a name'), null, null, o.amount, o.currency, 'done', (o.date + time '12:00') at time zone 'UTC'
			from orders o where o.account_id = ${account}
		) log
		where (state = 'planned' or at < ${until})
			${narrowed(filter)}
		order by at desc, id collate "C" desc limit ${limit}`);
	const { base } = organisation.company.rules.rates;
	return rows.map((row) => ({
		id: String(row.id),
		at: Number(row.ms),
		kind: String(row.kind),
		direction: (row.direction as string | null) ?? null,
		planned: row.state === "planned",
		dropped: row.state !== "planned" && row.dropped_from !== null,
		subject: String(row.subject ?? "") || "No subject",
		body: (row.body as string | null) || null,
		byId: (row.by_id as string | null) ?? null,
		contactIds: row.contact_ids as string[],
		dealId: (row.deal_id as string | null) ?? null,
		amount: row.amount === null ? null : { minor: Number(row.amount), currency: String(row.currency ?? base) },
	}));
}

/** How the deals began and ended, which is kept in memory. */
function dealsOf(context: Context, account: string, day: Day, { kind, person, deal: only, q }: LogFilter): Raw[] {
	if ((kind && kind !== "deal") || person || only === "none") return [];
	const { organisation } = context;
	const { zone, rates } = organisation.company.rules;
	const seen = surveyOn(organisation.company, day).deals;
	const words = wordsAsked(q).map((word) => word.toLowerCase());
	return dealsReached(context, account, day).flatMap((index): Raw[] => {
		const [deal, one] = [organisation.deals[index], seen[index]];
		if (!deal || !one || (only && only !== deal.id)) return [];
		const entry = (id: string, subject: string, at: number): Raw => ({
			id: `${id} ${deal.id}`,
			at,
			kind: "deal",
			direction: null,
			planned: false,
			dropped: false,
			subject,
			body: null,
			byId: null,
			contactIds: [],
			dealId: deal.id,
			amount: { minor: one.amountBase, currency: rates.base },
		});
		const made = entry("made", `Deal made: ${deal.name || "No name"}`, deal.createdAt);
		const ended =
			one.closedDay === NO_DAY ? [] : [entry("ended", `Deal ${one.status}: ${deal.name || "No name"}`, zone.instantAt(one.closedDay, 12 * 3_600_000))];
		return [made, ...ended].filter(({ subject }) => words.every((word) => subject.toLowerCase().includes(word)));
	});
}
