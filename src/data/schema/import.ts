import { boolean, integer, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
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

export const imports = pgTable("imports", {
	id: text("id").primaryKey(),
	byId: text("by_id"),
	name: text("name").notNull(),
	dryRun: boolean("dry_run").notNull().default(false),
	state: text("state").notNull(),
	step: text("step").notNull().default(""),
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
