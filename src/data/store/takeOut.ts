import { asc, desc, eq, getTableColumns, getTableName, is, max, type SQL, sql } from "drizzle-orm";
import { getTableConfig, PgTable } from "drizzle-orm/pg-core";
import type { Sql, Tx } from "../db";
import * as schema from "../schema";

const { importUndo } = schema;

const TABLES = new Map(
	Object.values(schema as Record<string, unknown>).flatMap((table) => (is(table, PgTable) ? [[getTableName(table), table] as const] : [])),
);

/** Which rows, of those an import wrote, aren't as it left them any more. */
export class ChangedSince extends Error {
	constructor(readonly table: string) {
		super(`rows of ${table} have been changed since`);
	}
}

/** The import that can be taken out: the newest that was written, while what it did is kept; null when there is none. */
export async function newestKept(db: Sql): Promise<string | null> {
	const [row] = await db.select({ id: max(importUndo.importId) }).from(importUndo);
	return row?.id ?? null;
}

/** Once an import has written something, those before it stay: what they did is kept no longer. */
export async function forgetOlder(tx: Tx, importId: string): Promise<void> {
	await tx.execute(sql`delete from import_undo where import_id <> ${importId} and exists (select from import_undo where import_id = ${importId})`);
}

export interface KeptCount {
	readonly table: string;
	readonly added: number;
	readonly changed: number;
}

/** How many rows of each table an import added, and how many others it changed or took away. */
export async function countKept(db: Sql, importId: string): Promise<readonly KeptCount[]> {
	const counts = [];
	const names = await db
		.selectDistinct({ name: importUndo.tableName })
		.from(importUndo)
		.where(eq(importUndo.importId, importId))
		.orderBy(asc(importUndo.tableName));
	for (const { name } of names) {
		const keys = keysOf(name).map((key) => sql`coalesce(after, before)->>${key}`);
		const { rows } = await db.execute(sql`
			select count(*) filter (where first)::int as added, count(*) filter (where not first)::int as changed
			from (select bool_or(before is null) as first from import_undo where import_id = ${importId} and table_name = ${name} group by ${sql.join(keys, sql`, `)}) one`);
		const [row] = rows as { added: number; changed: number }[];
		counts.push({ table: name, added: row?.added ?? 0, changed: row?.changed ?? 0 });
	}
	return counts;
}

/**
 * Undoes what an import did to each row, the last first.
 *
 * @throws ChangedSince where a row isn't as the import left it; the database's error 23503 where something rests on a row
 */
export async function takeOut(tx: Tx, importId: string): Promise<void> {
	const batches = await tx
		.select({
			batch: importUndo.batch,
			table: importUndo.tableName,
			before: sql<boolean>`bool_or(before is not null)`,
			after: sql<boolean>`bool_or(after is not null)`,
			n: sql<number>`count(*)::int`,
		})
		.from(importUndo)
		.where(eq(importUndo.importId, importId))
		.groupBy(importUndo.batch, importUndo.tableName)
		.orderBy(desc(importUndo.batch));
	for (const { batch, table, before, after, n } of batches) {
		const done = await tx.execute(undoing(importId, batch, table, before, after));
		if (done.rowCount !== n) throw new ChangedSince(table);
	}
	await tx.delete(importUndo).where(eq(importUndo.importId, importId));
}

/** The statement that undoes a batch: inserts are deleted, updates are set back, deletes are inserted. */
function undoing(importId: string, batch: number, name: string, before: boolean, after: boolean): SQL {
	const table = sql.identifier(name);
	const was = sql`jsonb_populate_record(null::${table}, u.before)`;
	const its = sql`u.import_id = ${importId} and u.batch = ${batch}`;
	if (!after) return sql`insert into ${table} select was.* from import_undo u, ${was} was where ${its}`;
	const same = sql.join(
		keysOf(name).map((key) => sql`t.${sql.identifier(key)} = became.${sql.identifier(key)}`),
		sql` and `,
	);
	const became = sql`jsonb_populate_record(null::${table}, u.after) became`;
	const asLeft = sql`${its} and ${same} and to_jsonb(t) = u.after`;
	if (!before) return sql`delete from ${table} t using import_undo u, ${became} where ${asLeft}`;
	const set = sql.join(
		columnsOf(name).map((column) => sql`${sql.identifier(column)} = was.${sql.identifier(column)}`),
		sql`, `,
	);
	return sql`update ${table} t set ${set} from import_undo u, ${became}, ${was} was where ${asLeft}`;
}

const tableOf = (name: string): PgTable => {
	const table = TABLES.get(name);
	if (!table) throw new Error(`there is no table ${name}`);
	return table;
};
const columnsOf = (name: string) => Object.values(getTableColumns(tableOf(name))).map((column) => column.name);

/** The columns that tell the rows of a table apart. */
function keysOf(name: string): readonly string[] {
	const { columns, primaryKeys } = getTableConfig(tableOf(name));
	const own = columns.filter((column) => column.primary).map((column) => column.name);
	return own.length ? own : (primaryKeys[0]?.columns.map((column) => column.name) ?? []);
}
