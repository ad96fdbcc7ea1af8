import { boolean, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { Rhythm } from "../../core/time/rhythm";
import { bytes, day, instant } from "./columns";
import { people } from "./people";
import { outbox } from "./reaching";

/** When something is sent: on a rhythm of its own, or on the days of a round that is planned. */
export type SendingRhythm =
	| Rhythm
	/** `plan`: the id of the round’s plan */
	| { readonly kind: "round"; readonly plan: string };

/** What was last sent of a sending to somebody. */
export interface SentTo {
	/** the day, ISO */
	readonly on: string;
	/** a sum over its table, by which is told whether anything moved */
	readonly sum: string;
	/** it was left out that day, since nothing had moved */
	readonly skipped: boolean;
}

/** What is sent by itself, again and again, to whom. */
export const sendings = pgTable("sendings", {
	id: text("id").primaryKey(),
	byId: text("by_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	/** the kind of letter, and which of it: the id of a view */
	kind: text("kind").notNull(),
	of: text("of").notNull().default(""),
	/** whose deals, as it stands in an address; empty: each recipient’s own */
	whose: text("whose").notNull().default(""),
	rhythm: jsonb("rhythm").notNull().$type<SendingRhythm>(),
	/** `07:30`, in the organisation’s time */
	at: text("at").notNull(),
	to: text("to").array().notNull(),
	/** with the table as a workbook */
	attach: boolean("attach").notNull().default(false),
	/** left out where nothing moved since it was sent last */
	skipSame: boolean("skip_same").notNull().default(false),
	/** by recipient */
	sent: jsonb("sent").notNull().$type<Readonly<Record<string, SentTo>>>().default({}),
	madeOn: day("made_on").notNull(),
	endedAt: instant("ended_at"),
	endedById: text("ended_by_id"),
});

/** Files that go along with mails, and pictures that lie in them. */
export const outboxFiles = pgTable(
	"outbox_files",
	{
		outboxId: text("outbox_id")
			.notNull()
			.references(() => outbox.id, { onDelete: "cascade" }),
		name: text("name").notNull(),
		type: text("type").notNull(),
		/** by which the mail’s own words name a picture (RFC 2392); null for a file beside them */
		contentId: text("content_id"),
		bytes: bytes("bytes").notNull(),
	},
	({ outboxId, name }) => [primaryKey({ columns: [outboxId, name] })],
);
