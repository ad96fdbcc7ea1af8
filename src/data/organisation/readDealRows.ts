import { type SQL, sql } from "drizzle-orm";
import type { Sql } from "../db";
import { versionsQuery } from "./dealVersions";
import type { Stored } from "./stored";

/** Rows of the tables that speak of deals, for some deals or (null) for all. */
export async function readDealRows(db: Sql, dealIds: readonly string[] | null) {
	// As one list: a query in its place is taken for a hundred deals, and planned for as many.
	const ours = (column: string) => sql`${sql.raw(column)} = any(${sql.param(dealIds)}::text[])`;
	const only = (column: string) => (dealIds ? sql`where ${ours(column)}` : sql``);
	const ms = (column: string) => sql`(extract(epoch from ${sql.identifier(column)}) * 1000)::float8 as ${sql.identifier(column)}`;
	const tables = {
		deals: sql`select id, account_id, name, source, ${ms("created_at")}, competitor, outcome_reason, tags from deals ${only("id")} order by id collate "C"`,
		versions: versionsQuery(only("deal_id")),
		contacts: sql`select d.deal_id, d.contact_id, coalesce(d.buying_role, c.buying_role) as buying_role from deal_contacts d join contacts c on c.id = d.contact_id ${only("deal_id")}`,
		formerDeals: sql`select f.deal_id, f.contact_id, f.field, f.before, ${ms("at")}, c.buying_role from former_facts f left join contacts c on c.id = f.contact_id ${dealIds ? only("deal_id") : sql`where f.deal_id is not null`} order by f.at desc, f.id desc`,
		formerRoles: sql`select distinct d.deal_id, f.contact_id, f.before, ${ms("at")}, f.id from former_facts f join (select deal_id, contact_id from deal_contacts union select deal_id, contact_id from former_facts where field = 'on_deal') d on d.contact_id = f.contact_id ${dealIds ? sql`where f.field = 'role' and f.deal_id is null and ${ours("d.deal_id")}` : sql`where f.field = 'role' and f.deal_id is null`} order by 4 desc, f.id desc`,
		lines: sql`select deal_id, product, family, (quantity * unit_price)::float8 as worth from deal_lines ${only("deal_id")} order by deal_id, ordinal`,
		rests: sql`select id, deal_id, from_day, until_day, ended_on, flags, by_id, reason from rests where state = 'given' ${dealIds ? sql`and ${ours("deal_id")}` : sql``} order by from_day, id`,
		quotes: sql`select id, deal_id, number, sent_on, valid_until, answered_on from quotes ${only("deal_id")}`,
		activities: sql`select id, deal_id, kind, direction, state, contact_ids, by_id, ${ms("at")}, ${ms("recorded_at")}, ${ms("planned_for")}, ${ms("settled_at")} from activities ${dealIds ? only("deal_id") : sql`where deal_id is not null`}`,
		answers: sql`select deal_id, question_id, level, ${ms("at")} from answers ${only("deal_id")}`,
		tasks: sql`select ${TASK_COLUMNS}, ${ms("created_at")}, ${ms("done_at")}, ${FORMER} from tasks ${dealIds ? only("deal_id") : sql`where deal_id is not null`}`,
	};
	return dealIds ? readTogether(db, tables) : readEach(db, tables);
}

export const TASK_COLUMNS = sql.raw("id, deal_id, assignee_id, team, due_on, state, flags");

/** How a task stood before each of its changes, the first first; null where there was none. */
export const FORMER = sql.raw(
	"(select json_agg(json_build_object('at', (extract(epoch from c.at) * 1000)::float8, 'before', c.before) order by c.at, c.id) from task_changes c where c.task_id = tasks.id) as former",
);

/** One table after another: they are long. */
async function readEach<N extends string>(db: Sql, tables: Readonly<Record<N, SQL>>): Promise<Record<N, Stored[]>> {
	const read = {} as Record<N, Stored[]>;
	for (const name of Object.keys(tables) as N[]) read[name] = (await db.execute(tables[name])).rows as Stored[];
	return read;
}

/** A few rows of each table by one statement: after every write every process asks for them. */
async function readTogether<N extends string>(db: Sql, tables: Readonly<Record<N, SQL>>): Promise<Record<N, Stored[]>> {
	const names = Object.keys(tables) as N[];
	const parts = names.map((name) => sql`select ${name}::text as name, (select coalesce(json_agg(one), '[]') from (${tables[name]}) one) as rows`);
	const { rows } = await db.execute(sql.join(parts, sql` union all `));
	return Object.fromEntries((rows as { name: string; rows: Stored[] }[]).map((row) => [row.name, row.rows])) as Record<N, Stored[]>;
}

export type DealRows = Awaited<ReturnType<typeof readDealRows>>;
