import { bigint, integer, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { day, instant } from "./columns";

/** Up to when the tables that other programs read are true; one row. */
export const outsideState = pgTable("outside_state", {
	id: integer("id").primaryKey().default(1),
	/** the day that they speak of */
	day: day("day").notNull(),
	at: instant("at").notNull(),
	revision: bigint("revision", { mode: "number" }).notNull(),
});

/** A part of a table that other programs read: its rows as arrays, in the order of its columns. */
export const outsideParts = pgTable(
	"outside_parts",
	{
		table: text("table_name").notNull(),
		part: integer("part").notNull(),
		digest: text("digest").notNull(),
		rows: jsonb("rows").$type<readonly (readonly (string | number | boolean | null)[])[]>().notNull(),
	},
	(t) => [primaryKey({ columns: [t.table, t.part] })],
);
