import { index, integer, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { day, minor, wordsIndex } from "./columns";

export const accounts = pgTable("accounts", {
	id: text("id").primaryKey(),
	name: text("name").notNull().default(""),
	kind: text("kind"),
	industry: text("industry"),
	territory: text("territory"),
	ownerId: text("owner_id"),
});

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
