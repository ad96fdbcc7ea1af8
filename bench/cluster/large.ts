import { type SQL, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { systemWrite } from "@/platform/write";

/** What a deal is made of, by table: the columns that name something of its own, which a copy names by another name. */
const OWN: Readonly<Record<string, readonly string[]>> = {
	deals: ["id"],
	deal_versions: ["deal_id"],
	activities: ["id", "deal_id"],
	answers: ["deal_id"],
	deal_contacts: ["deal_id"],
	quotes: ["id", "deal_id"],
	tasks: ["id", "deal_id"],
};
/** What the database numbers by itself, and what may be there once. */
const LEFT_OUT: Readonly<Record<string, readonly string[]>> = { deal_versions: ["id"], activities: ["message_id"] };

/** Copies all deals of a company until it has so many: a bundle of more than 53 000 is larger than one may be. */
export async function copyDeals(count: number): Promise<void> {
	const { db } = connection();
	const have = Number((await db.execute(sql`select count(*) n from deals`)).rows[0]?.n);
	for (let copy = 1; copy * have < count; copy++) {
		const most = Math.min(have, count - copy * have);
		await systemWrite(async (tx) => {
			for (const [table, own] of Object.entries(OWN)) {
				const { rows } = await tx.execute(
					sql`select column_name from information_schema.columns where table_schema = 'public' and table_name = ${table} and is_generated = 'NEVER'`,
				);
				const columns = rows.map(({ column_name }) => String(column_name)).filter((name) => !LEFT_OUT[table]?.includes(name));
				const value = (name: string): SQL => (own.includes(name) ? sql`${`copy-${copy}-`}::text || ${sql.identifier(name)}` : sql`${sql.identifier(name)}`);
				const list = (parts: SQL[]) => sql.join(parts, sql`, `);
				const deal = sql.identifier(table === "deals" ? "id" : "deal_id");
				await tx.execute(sql`insert into ${sql.identifier(table)} (${list(columns.map((name) => sql`${sql.identifier(name)}`))})
					select ${list(columns.map(value))} from ${sql.identifier(table)}
					where ${deal} in (select id from deals where id not like 'copy-%' order by id limit ${most})`);
			}
			return { result: null, touched: "everything", audit: [] };
		});
	}
}

/** Has deals shared among so many people, who are made first: reps of all teams. */
export async function shareAmong(count: number): Promise<void> {
	await systemWrite(async (tx) => {
		await tx.execute(sql`insert into people (id, name, email, role, team)
			select 'bench-person-' || n, 'Person ' || n, 'person-' || n || '@emberwick.example', 'rep',
				(array(select name from teams order by name))[1 + n % (select count(*) from teams)]
			from generate_series(1, ${count}::int) n on conflict do nothing`);
		await tx.execute(sql`update deal_versions set owner_id = 'bench-person-' || (1 + abs(hashtext(deal_id)::bigint) % ${count}::int)
			where owner_id not like 'bench-person-%'`);
		return { result: null, touched: "everything", audit: [] };
	});
}
