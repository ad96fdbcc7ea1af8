import { type AnyColumn, type SQL, sql } from "drizzle-orm";

/**
 * Whether a column holds one of a list: the list is one parameter, so that it may be as long as a company is large
 * (PostgreSQL takes 65 535 parameters).
 */
export function isOneOf(column: AnyColumn, list: Iterable<string> | Iterable<number>): SQL {
	const values = [...list];
	return typeof values[0] === "number" ? sql`${column} = any(${sql.param(values)}::bigint[])` : sql`${column} = any(${sql.param(values)}::text[])`;
}
