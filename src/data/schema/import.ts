import { bigint, bigserial, boolean, index, integer, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { Cause } from "../../formats/causes";
import { instant } from "./columns";

/** Columns of a bundle that the program doesn't know, kept so that an export gives them back. */
export const importExtras = pgTable(
	"import_extras",
	{
		file: text("file").notNull(),
		rowKey: text("row_key").notNull(),
		fields: jsonb("fields").notNull().$type<Record<string, string>>(),
	},
	(t) => [primaryKey({ columns: [t.file, t.rowKey] })],
);

export interface StoredProblem {
	file: string;
	line: number | null;
	column: string | null;
	value: string | null;
	reason: string;
}

/** What an import is at; words are made when it is read. */
export type ImportStep = "" | "demo" | "opening" | "reading" | "checking" | `writing ${string}` | "needed";

export const imports = pgTable("imports", {
	id: text("id").primaryKey(),
	byId: text("by_id"),
	name: text("name").notNull(),
	dryRun: boolean("dry_run").notNull().default(false),
	state: text("state").notNull(),
	step: text("step").notNull().$type<ImportStep>().default(""),
	done: integer("done").notNull().default(0),
	total: integer("total").notNull().default(0),
	startedAt: instant("started_at").notNull().defaultNow(),
	beatAt: instant("beat_at").notNull().defaultNow(),
	endedAt: instant("ended_at"),
	counts: jsonb("counts").notNull().$type<Record<string, number>>().default({}),
	changed: jsonb("changed").notNull().$type<Record<string, number>>().default({}),
	unknownColumns: jsonb("unknown_columns").notNull().$type<Record<string, string[]>>().default({}),
	problems: jsonb("problems").notNull().$type<StoredProblem[]>().default([]),
	problemCount: integer("problem_count").notNull().default(0),
	/** the same by what they have in common */
	causes: jsonb("causes").notNull().$type<Cause[]>().default([]),
});

/**
 * What the newest import did to each row, kept by triggers while it wrote: the rows of one statement on one table are a
 * batch, and undone in the order opposite to that they were done in, each batch leaves a state that there was.
 */
export const importUndo = pgTable(
	"import_undo",
	{
		id: bigserial("id", { mode: "number" }).primaryKey(),
		importId: text("import_id").notNull(),
		batch: bigint("batch", { mode: "number" }).notNull(),
		tableName: text("table_name").notNull(),
		/** the row before and after; null where there was none */
		before: jsonb("before").$type<Record<string, unknown>>(),
		after: jsonb("after").$type<Record<string, unknown>>(),
	},
	(t) => [index("import_undo_batch").on(t.importId, t.batch)],
);
