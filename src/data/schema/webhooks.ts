import { boolean, index, integer, jsonb, pgTable, serial, text, uniqueIndex } from "drizzle-orm/pg-core";
import { instant } from "./columns";

/** Addresses that are called when something happens. */
export const webhooks = pgTable("webhooks", {
	id: text("id").primaryKey(),
	url: text("url").notNull(),
	/** what it is called with, sealed: it has to be read to sign; empty for one that came with a bundle, which carries no secrets */
	secret: text("secret").notNull().default(""),
	events: text("events").array().notNull(),
	on: boolean("on").notNull().default(false),
	byId: text("by_id"),
	createdAt: instant("created_at").notNull(),
});

/** Each call of an address: the queue and its log in one. */
export const webhookCalls = pgTable(
	"webhook_calls",
	{
		id: serial("id").primaryKey(),
		hookId: text("hook_id")
			.notNull()
			.references(() => webhooks.id, { onDelete: "cascade" }),
		/** names what it tells: the same is told once */
		key: text("key").notNull(),
		event: text("event").notNull(),
		body: jsonb("body").notNull(),
		at: instant("at").notNull(),
		/** `waiting`, `taken` or `given up` */
		state: text("state").notNull().default("waiting"),
		tries: integer("tries").notNull().default(0),
		nextAt: instant("next_at").notNull().defaultNow(),
		/** the last answer: its status, and its beginning or why there was none */
		status: integer("status"),
		answer: text("answer"),
	},
	(t) => [uniqueIndex("webhook_calls_once").on(t.hookId, t.key), index("webhook_calls_waiting").on(t.state, t.nextAt)],
);
