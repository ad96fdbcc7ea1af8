import { sql } from "drizzle-orm";
import type { ContactCounts } from "@/core/contact/counts";
import type { Sql } from "../db";

/** Which days are meant, by the company's zone: from one to another, as known at the end of the day `seen`. */
export interface ContactSpan {
	readonly from: string;
	readonly to: string;
	readonly seen: string;
	readonly zone: string;
}

/** Activities that may count in a span, with their days; what was recorded later isn't among them. */
const within = ({ from, to, seen, zone }: ContactSpan) => sql`
	select * from (
		select id, by_id, deal_id, account_id, kind, subject, direction, state, at,
			(at at time zone ${zone})::date as day,
			(recorded_at at time zone ${zone})::date as recorded,
			(planned_for at time zone ${zone})::date as planned,
			(settled_at at time zone ${zone})::date as settled
		from activities where by_id is not null and (
			(at >= ${from}::date - 1 and at < ${to}::date + 2) or (planned_for >= ${from}::date - 1 and planned_for < ${to}::date + 2))
	) a where recorded is null or recorded <= ${seen}::date`;

/** Done touches of the span. */
const isDone = ({ from, to, seen }: ContactSpan) =>
	sql`state = 'done' and direction <> 'none' and day between ${from}::date and least(${to}::date, ${seen}::date) and (settled is null or settled <= ${seen}::date)`;
/** Planned for a day of the span, and standing as planned on the seen day. */
const isPlanned = ({ from, to, seen }: ContactSpan) =>
	sql`(state = 'planned' and day between ${from}::date and ${to}::date) or (settled > ${seen}::date and planned between ${from}::date and ${to}::date)`;
/** Planned for a day of the span before the seen one, and standing as planned on it. */
const isUndone = ({ from, to, seen }: ContactSpan) =>
	sql`(state = 'planned' and day between ${from}::date and ${to}::date and day < ${seen}::date)
		or (settled > ${seen}::date and planned between ${from}::date and ${to}::date and planned < ${seen}::date)`;

/** The counts of `core/contact/counts` of activities that belong to no deal, by the id of the person. */
export async function looseContactCounts(db: Sql, span: ContactSpan): Promise<ReadonlyMap<string, ContactCounts>> {
	const { rows } = await db.execute(sql`
		select by_id, count(*) filter (where ${isDone(span)})::int as done, count(*) filter (where ${isUndone(span)})::int as undone
		from (${within(span)}) a where deal_id is null group by by_id`);
	return new Map((rows as { by_id: string; done: number; undone: number }[]).map(({ by_id, done, undone }) => [by_id, { done, undone }]));
}

/** An activity that counts. */
export interface ContactRow {
	readonly id: string;
	readonly byId: string;
	readonly dealId: string | null;
	readonly accountId: string | null;
	readonly kind: string;
	readonly subject: string | null;
	/** the day that counts: on which it was done, or for which it was planned */
	readonly day: string;
}

/** What rows are narrowed to: one kind, or some accounts and their deals. */
export interface ContactFilter {
	readonly kind?: string | undefined;
	readonly at?: { readonly accounts: readonly string[]; readonly deals: readonly string[] } | undefined;
}

const WHICH = { done: isDone, planned: isPlanned, undone: isUndone } as const;

/** The activities that count of some people, the newest first. */
export async function contactRows(
	db: Sql,
	span: ContactSpan,
	which: keyof typeof WHICH,
	people: readonly string[],
	limit: number,
	{ kind, at }: ContactFilter = {},
): Promise<ContactRow[]> {
	const day = which === "done" ? sql`day` : sql`case when state = 'planned' then day else planned end`;
	const { rows } = await db.execute(sql`
		select id, by_id, deal_id, account_id, kind, subject, (${day})::text as day
		from (${within(span)}) a
		where by_id = any(${sql.param([...people])}) and (${WHICH[which](span)})
			${kind ? sql`and kind = ${kind}` : sql``}
			${at ? sql`and (deal_id = any(${sql.param([...at.deals])}::text[]) or (deal_id is null and account_id = any(${sql.param([...at.accounts])}::text[])))` : sql``}
		order by 7 desc, id desc limit ${limit}`);
	return (rows as Record<string, string | null>[]).map((row) => ({
		id: String(row.id),
		byId: String(row.by_id),
		dealId: row.deal_id ?? null,
		accountId: row.account_id ?? null,
		kind: String(row.kind),
		subject: row.subject ?? null,
		day: String(row.day),
	}));
}
