import { sql } from "drizzle-orm";
import type { Sql } from "../db";

/** What a person did with buyers in a time, and what they had planned in it and didn't do. */
export interface ContactCounts {
	readonly done: number;
	readonly undone: number;
}

/**
 * Contacts by the id of whoever made them: done touches of the days `from` to `to` that were recorded and done by the
 * end of the day `seen`; and activities planned for a day of these before `seen` that stand as planned on it.
 */
export async function contactCounts(
	db: Sql,
	{ from, to, seen, zone }: { from: string; to: string; seen: string; zone: string },
): Promise<ReadonlyMap<string, ContactCounts>> {
	const { rows } = await db.execute(sql`
		with a as (
			select by_id, direction, state,
				(at at time zone ${zone})::date as day,
				(recorded_at at time zone ${zone})::date as recorded,
				(planned_for at time zone ${zone})::date as planned,
				(settled_at at time zone ${zone})::date as settled
			from activities where by_id is not null and (
				(at >= ${from}::date - 1 and at < ${to}::date + 2) or (planned_for >= ${from}::date - 1 and planned_for < ${to}::date + 2))
		)
		select by_id,
			count(*) filter (where state = 'done' and direction <> 'none' and day between ${from}::date and least(${to}::date, ${seen}::date) and (settled is null or settled <= ${seen}::date))::int as done,
			count(*) filter (where (state = 'planned' and day between ${from}::date and ${to}::date and day < ${seen}::date)
				or (settled > ${seen}::date and planned between ${from}::date and ${to}::date and planned < ${seen}::date))::int as undone
		from a where recorded is null or recorded <= ${seen}::date
		group by by_id`);
	return new Map((rows as { by_id: string; done: number; undone: number }[]).map(({ by_id, done, undone }) => [by_id, { done, undone }]));
}
