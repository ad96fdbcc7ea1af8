import { sql } from "drizzle-orm";
import type { Sql } from "@/data/db";
import type { Kind } from "@/formats/columns";
import { TABLES } from "./list";

/** The schema that other programs read, and who they read it as. */
export const SCHEMA = "porch_lamp_read";
export const READER = "porch_lamp_reader";

/** The value at a place of a row, by what stands in its column. */
const VALUES: Readonly<Record<Kind, (place: string) => string>> = {
	text: (place) => place,
	integer: (place) => `(${place})::integer`,
	decimal: (place) => `(${place})::numeric`,
	day: (place) => `date '1970-01-01' + (${place})::integer`,
	instant: (place) => `to_timestamp((${place})::double precision / 1000)`,
	flag: (place) => `(${place})::boolean`,
};

/**
 * Makes the views of the schema that other programs read, as their tables say, and lets the role read them where it is there.
 * PostgreSQL takes columns that are added at the end of a view, and refuses to take away what others may rely on.
 */
export async function makeViews(db: Sql): Promise<void> {
	await db.execute(sql.raw(`create schema if not exists ${SCHEMA}`));
	for (const { name, about, columns } of TABLES) {
		const list = columns.map(({ name: called, kind }, i) => `${VALUES[kind](`r.row ->> ${i}`)} as ${called}`);
		await db.execute(
			sql.raw(
				`create or replace view ${SCHEMA}.${name} as select ${list.join(", ")} from public.outside_parts p, jsonb_array_elements(p.rows) r(row) where p.table_name = '${name}'`,
			),
		);
		await db.execute(sql.raw(`comment on view ${SCHEMA}.${name} is ${quoted(about)}`));
		for (const column of columns) if (column.about) await db.execute(sql.raw(`comment on column ${SCHEMA}.${name}.${column.name} is ${quoted(column.about)}`));
	}
	await db.execute(sql.raw(`create or replace view ${SCHEMA}.about as select day as seen_on, at as known_at, revision from public.outside_state`));
	const { rows } = await db.execute(sql`select 1 from pg_roles where rolname = ${READER}`);
	if (!rows.length) return;
	await db.execute(sql.raw(`grant usage on schema ${SCHEMA} to ${READER}`));
	await db.execute(sql.raw(`grant select on all tables in schema ${SCHEMA} to ${READER}`));
}

const quoted = (text: string) => `'${text.replaceAll("'", "''")}'`;
