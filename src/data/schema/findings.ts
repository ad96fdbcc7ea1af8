import { bigint, integer, jsonb, pgTable, text, timestamp } from "drizzle-orm/pg-core";
import { day } from "./columns";

/** What was worked out of the whole past by a thread of its own, kept for the day; or how far that is. */
export const findings = pgTable("findings", {
	/** what was asked: by whom it may be seen, of which day, by which rules */
	key: text("key").primaryKey(),
	day: day("day").notNull(),
	/** the write up to which it is known; null until it is */
	revision: bigint("revision", { mode: "number" }),
	madeAt: timestamp("made_at", { withTimezone: true }),
	/** so many steps of so many are done */
	done: integer("done").notNull().default(0),
	steps: integer("steps").notNull().default(1),
	askedAt: timestamp("asked_at", { withTimezone: true }).notNull().defaultNow(),
	/** why it couldn't be worked out, the last time that it was tried */
	failed: text("failed"),
	answer: jsonb("answer"),
});
