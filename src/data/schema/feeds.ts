import { sql } from "drizzle-orm";
import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex } from "drizzle-orm/pg-core";
import { day, instant } from "./columns";

export type FeedKind = "weekly" | "bundle";
/** By when a file has to have come: on these weekdays (1 Monday to 7 Sunday), by a time of the company’s zone. */
export interface FeedDue {
	readonly days: readonly number[];
	/** `08:00` */
	readonly at: string;
}

/** Ways by which data comes by itself. */
export const dataFeeds = pgTable("data_feeds", {
	id: text("id").primaryKey(),
	name: text("name").notNull(),
	kind: text("kind").$type<FeedKind>().notNull(),
	/** the part of the pipeline its weekly files are about; empty: all of it */
	covers: text("covers").notNull().default(""),
	/** whose rights it has: the person of ops who set it up, or took it over */
	byId: text("by_id").notNull(),
	/** who is told what came of a file, by id */
	tell: text("tell").array().notNull().default([]),
	/** whose mails are taken: addresses, or a host after an @, in lower case */
	senders: text("senders").array().notNull().default([]),
	due: jsonb("due").$type<FeedDue>(),
	/** makes its mail address: with another one the old address no longer works */
	salt: text("salt").notNull(),
	/** where it is fetched, with a header that is kept sealed (`Name: value`) */
	url: text("url"),
	header: text("header"),
	/** when, by an RFC 5545 rule in the company’s zone, and when next */
	rule: text("rule"),
	nextAt: instant("next_at"),
	fetchedAt: instant("fetched_at"),
	/** what the last answer said of itself, so that only another is fetched */
	etag: text("etag"),
	lastModified: text("last_modified"),
	madeAt: instant("made_at").notNull(),
	on: boolean("on").notNull().default(true),
	endedAt: instant("ended_at"),
});

/** What became of a file: imported, here already, waiting for an answer, refused, ended by an error of ours; or none came by its hour. */
export type FeedState = "reading" | "imported" | "known" | "waits" | "refused" | "failed" | "missing";

/** Each file that came through a feed, and each that didn’t come in time. */
export const feedRuns = pgTable(
	"feed_runs",
	{
		id: text("id").primaryKey(),
		feedId: text("feed_id")
			.notNull()
			.references(() => dataFeeds.id, { onDelete: "cascade" }),
		at: instant("at").notNull(),
		/** `mail`, `folder`, `api` or `address`; empty for one that didn’t come */
		way: text("way").notNull(),
		/** of the file; of one that didn’t come: when it was due */
		name: text("name").notNull(),
		sha256: text("sha256"),
		size: integer("size"),
		/** who sent it: an address, or the id of who called */
		sender: text("sender"),
		state: text("state").$type<FeedState>().notNull(),
		/** what it did, what is asked, or why it was refused */
		words: text("words").notNull().default(""),
		/** the day a weekly file tells of, and the one before */
		day: day("day"),
		before: day("before"),
		/** the weekly file or import that it became */
		madeId: text("made_id"),
	},
	(t) => [
		index("feed_runs_feed").on(t.feedId, t.at),
		index("feed_runs_sum").on(t.sha256),
		uniqueIndex("feed_runs_missing").on(t.feedId, t.name, t.state).where(sql`state = 'missing'`),
	],
);
