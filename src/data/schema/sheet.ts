import { sql } from "drizzle-orm";
import { check, index, pgTable, text } from "drizzle-orm/pg-core";
import { accounts } from "./accounts";
import { day, instant, wordsIndex } from "./columns";
import { deals } from "./deals";

export const activities = pgTable(
	"activities",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id").references(() => deals.id),
		accountId: text("account_id").references(() => accounts.id),
		contactIds: text("contact_ids").array().notNull().default([]),
		kind: text("kind").notNull(),
		direction: text("direction").notNull(),
		state: text("state").notNull(),
		at: instant("at").notNull(),
		byId: text("by_id"),
		subject: text("subject"),
		body: text("body"),
		/** when it was written down here; null where that isn't known */
		recordedAt: instant("recorded_at"),
		/** of one that was planned before it was done: when it was planned for, and when it was said to be done */
		plannedFor: instant("planned_for"),
		settledAt: instant("settled_at"),
		/** of one that was planned and won't take place: which way it was to go; it is internal then, settled when it was dropped */
		droppedFrom: text("dropped_from"),
		/** Message-ID of a message, UID of a meeting that it was made of */
		messageId: text("message_id"),
	},
	(t) => [
		index("activities_message").on(t.messageId).where(sql`${t.messageId} is not null`),
		index("activities_deal").on(t.dealId),
		index("activities_account").on(t.accountId),
		index("activities_at").on(t.at),
		index("activities_contacts").using("gin", t.contactIds),
		index("activities_planned_for").on(t.plannedFor).where(sql`${t.plannedFor} is not null`),
		wordsIndex("activities_subject_words", t.subject),
		wordsIndex("activities_body_words", t.body),
	],
);

export const notes = pgTable(
	"notes",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		at: instant("at").notNull(),
		byId: text("by_id"),
		body: text("body").notNull(),
		/** ids of the people it calls on */
		mentions: text("mentions").array().notNull().default([]),
	},
	(t) => [index("notes_deal").on(t.dealId), index("notes_mentions").using("gin", t.mentions), wordsIndex("notes_words", t.body)],
);

export const closePlanSteps = pgTable(
	"close_plan_steps",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		title: text("title").notNull(),
		dueOn: day("due_on"),
		/** who does it: `ours` or `theirs` */
		side: text("side").notNull(),
		doneOn: day("done_on"),
		/** when it was written down here, and taken out again */
		addedAt: instant("added_at"),
		removedAt: instant("removed_at"),
	},
	(t) => [index("close_plan_steps_deal").on(t.dealId), check("close_plan_side", sql`${t.side} in ('ours', 'theirs')`)],
);
