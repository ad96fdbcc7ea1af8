import { eq, getTableColumns, is } from "drizzle-orm";
import { PgTable } from "drizzle-orm/pg-core";
import type { Tx } from "@/data/db";
import * as schema from "@/data/schema";

const NAMES: ReadonlySet<string> = new Set(["team", "shared_with", "whose"]);

/** Columns that name a team, and such that say whose deals something is over as an address does, of all tables. */
const PLACES = Object.values(schema as Record<string, unknown>).flatMap((table) => {
	if (!is(table, PgTable) || table === schema.teams) return [];
	return Object.entries(getTableColumns(table)).flatMap(([key, column]) => (NAMES.has(column.name) ? [{ table, key, column }] : []));
});

/** Whatever names a team by its old name names it by its new one, within a write that renames it. */
export async function renameTeam(tx: Tx, was: string, name: string): Promise<void> {
	for (const { table, key, column } of PLACES) {
		const [before, after] = column.name === "whose" ? [`team:${was}`, `team:${name}`] : [was, name];
		await tx
			.update(table)
			.set({ [key]: after })
			.where(eq(column, before));
	}
}
