import { boolean, index, integer, jsonb, pgTable, primaryKey, serial, text, uniqueIndex } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { people } from "./people";

const person = () =>
	text("person_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" });

/** What somebody was told: a happening, once. */
export const news = pgTable(
	"news",
	{
		id: serial("id").primaryKey(),
		personId: person(),
		kind: text("kind").notNull(),
		/** names the happening: the same is told once */
		key: text("key").notNull(),
		at: instant("at").notNull(),
		dealId: text("deal_id"),
		taskId: text("task_id"),
		/** what it is about, as it was then; worded when it is read */
		facts: jsonb("facts").$type<Readonly<Record<string, string | number | boolean | null>>>().notNull(),
		/** the address it leads to, without the host */
		path: text("path").notNull(),
		onScreen: boolean("on_screen").notNull(),
		/** `now`, `digest` or `never` */
		mail: text("mail").notNull(),
		readAt: instant("read_at"),
		digestedAt: instant("digested_at"),
	},
	(t) => [uniqueIndex("news_once").on(t.personId, t.kind, t.key), index("news_unread").on(t.personId, t.readAt)],
);

/** Mails to be sent, and those that were: the queue and its log in one. */
export const outbox = pgTable(
	"outbox",
	{
		/** is its Message-ID too, so that whoever gets it twice knows it */
		id: text("id").primaryKey(),
		/** names what it tells: the same is written once */
		key: text("key").notNull().unique(),
		personId: text("person_id").references(() => people.id, { onDelete: "set null", onUpdate: "cascade" }),
		address: text("address").notNull(),
		subject: text("subject").notNull(),
		text: text("text").notNull(),
		html: text("html").notNull(),
		dealId: text("deal_id"),
		createdAt: instant("created_at").notNull(),
		/** `waiting`, `sent` or `refused` */
		state: text("state").notNull().default("waiting"),
		tries: integer("tries").notNull().default(0),
		nextAt: instant("next_at").notNull().defaultNow(),
		error: text("error"),
		sentAt: instant("sent_at"),
	},
	(t) => [index("outbox_waiting").on(t.state, t.nextAt)],
);

/** How somebody wishes to hear of a kind of happening. Where there is none, it is as usual for the kind. */
export const wishes = pgTable(
	"wishes",
	{
		personId: person(),
		kind: text("kind").notNull(),
		/** what of the kind: the id of a view; empty where there is nothing to choose */
		of: text("of").notNull().default(""),
		onScreen: boolean("on_screen").notNull(),
		mail: text("mail").notNull(),
	},
	(t) => [primaryKey({ columns: [t.personId, t.kind, t.of] })],
);

/** When somebody gets their digests, in the organisation's time; null: never. */
export const digestTimes = pgTable("digest_times", {
	personId: text("person_id")
		.primaryKey()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	/** `07:30` each working day */
	daily: text("daily"),
	/** `1 07:30`: the day of the week from Monday, 1, and the time */
	weekly: text("weekly"),
});

/** How far the looking for happenings has come. */
export const reachState = pgTable("reach_state", { key: text("key").primaryKey(), value: jsonb("value").notNull() });

/** What came in answer to a mail; each once. */
export const answersIn = pgTable("answers_in", {
	messageId: text("message_id").primaryKey(),
	outboxId: text("outbox_id"),
	at: instant("at").notNull(),
	/** `logged`, or why it wasn't */
	fate: text("fate").notNull(),
});
