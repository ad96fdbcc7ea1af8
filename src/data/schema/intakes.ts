import { boolean, integer, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { accounts } from "./accounts";
import { instant } from "./columns";
import { deals } from "./deals";

export type IntakeState = "reading" | "ready" | "taken" | "undone" | "failed" | "cancelled";

/** A file attached to a message, known by its sum. */
export interface IntakeFile {
	readonly name: string;
	readonly type: string;
	readonly size: number;
	readonly sha256: string;
}

/** A file of messages, meetings or people that somebody handed in to be logged: read first, shown, then logged or left. */
export const intakes = pgTable("intakes", {
	id: text("id").primaryKey(),
	dealId: text("deal_id").references(() => deals.id, { onDelete: "cascade" }),
	accountId: text("account_id").references(() => accounts.id, { onDelete: "cascade" }),
	byId: text("by_id").notNull(),
	name: text("name").notNull(),
	madeAt: instant("made_at").notNull(),
	/** by the server's own clock, which always passes: what is old is forgotten */
	really: instant("really").notNull().defaultNow(),
	state: text("state").$type<IntakeState>().notNull().default("reading"),
	/** many messages of all kinds, not one that was meant */
	archive: boolean("archive").notNull().default(false),
	/** how much of it is read, in bytes */
	done: integer("done").notNull().default(0),
	total: integer("total").notNull(),
	problems: jsonb("problems").$type<readonly string[]>().notNull().default([]),
	/** contacts that were made when it was logged */
	made: jsonb("made").$type<readonly string[]>().notNull().default([]),
});

export const intakeItems = pgTable(
	"intake_items",
	{
		intakeId: text("intake_id")
			.notNull()
			.references(() => intakes.id, { onDelete: "cascade" }),
		ordinal: integer("ordinal").notNull(),
		sort: text("sort").$type<"message" | "meeting" | "card">().notNull(),
		key: text("key").notNull(),
		at: instant("at"),
		/** of a card: the address and name of whom it tells */
		fromAddress: text("from_address").notNull(),
		fromName: text("from_name").notNull(),
		others: jsonb("others").$type<readonly { readonly address: string; readonly name: string }[]>().notNull().default([]),
		/** of a card: the title */
		subject: text("subject").notNull(),
		body: text("body").notNull(),
		automatic: boolean("automatic").notNull().default(false),
		cancelled: boolean("cancelled").notNull().default(false),
		/** what was attached to it; the bytes are stored already, and forgotten where it isn’t logged */
		files: jsonb("files").$type<readonly IntakeFile[]>().notNull().default([]),
		/** what became of it when it was logged */
		activityId: text("activity_id"),
	},
	(t) => [primaryKey({ columns: [t.intakeId, t.ordinal] })],
);
