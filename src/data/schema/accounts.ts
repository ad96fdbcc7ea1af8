import { index, integer, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { day, instant, minor, wordsIndex } from "./columns";

export const accounts = pgTable("accounts", {
	id: text("id").primaryKey(),
	name: text("name").notNull().default(""),
	kind: text("kind"),
	industry: text("industry"),
	territory: text("territory"),
	ownerId: text("owner_id"),
	/** other ids and names that files call it by: those of accounts that were merged into it */
	also: text("also").array().notNull().default([]),
	/** raised by each change made here: who changes it names the one that was seen */
	version: integer("version").notNull().default(1),
});

/** Words about an account that stay on top of its page. */
export const accountNotes = pgTable(
	"account_notes",
	{
		id: text("id").primaryKey(),
		accountId: text("account_id")
			.notNull()
			.references(() => accounts.id, { onDelete: "cascade" }),
		at: instant("at").notNull(),
		byId: text("by_id"),
		body: text("body").notNull(),
		/** when it was taken down; days before still read it */
		endedAt: instant("ended_at"),
	},
	(t) => [index("account_notes_account").on(t.accountId)],
);

export const contacts = pgTable(
	"contacts",
	{
		id: text("id").primaryKey(),
		accountId: text("account_id"),
		name: text("name").notNull().default(""),
		title: text("title"),
		email: text("email"),
		buyingRole: text("buying_role"),
		reportsToId: text("reports_to_id"),
		version: integer("version").notNull().default(1),
	},
	(t) => [index("contacts_account").on(t.accountId), wordsIndex("contacts_words", t.name)],
);

export const orders = pgTable(
	"orders",
	{
		accountId: text("account_id")
			.notNull()
			.references(() => accounts.id),
		ordinal: integer("ordinal").notNull(),
		date: day("date").notNull(),
		product: text("product"),
		amount: minor("amount"),
		currency: text("currency"),
	},
	(t) => [primaryKey({ columns: [t.accountId, t.ordinal] })],
);
