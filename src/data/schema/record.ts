import { sql } from "drizzle-orm";
import { bigint, bigserial, check, index, integer, jsonb, pgTable, text } from "drizzle-orm/pg-core";
import { bytes, instant } from "./columns";

export const audit = pgTable(
	"audit",
	{
		id: bigserial("id", { mode: "number" }).primaryKey(),
		/** by the program's clock, whose day may be held */
		at: instant("at").notNull().defaultNow(),
		/** by the server's own clock, which always passes */
		really: instant("really").notNull().defaultNow(),
		personId: text("person_id"),
		action: text("action").notNull(),
		subject: text("subject"),
		detail: jsonb("detail").notNull().$type<Record<string, unknown>>().default({}),
	},
	(t) => [index("audit_subject").on(t.subject, t.id), index("audit_action").on(t.action, t.id), index("audit_person").on(t.personId, t.id)],
);

/** Writes that must not be done twice: what each answered, by the key that whoever asked for it gave it. */
export const idempotencyKeys = pgTable("once_keys", {
	key: text("key").primaryKey(),
	/** SHA-256 of what was asked for under the key */
	input: text("input"),
	at: instant("at").notNull().defaultNow(),
	result: jsonb("result"),
});

/** One row, raised by every write within its transaction: its lock makes the order of the change log the order of commits. */
export const revision = pgTable(
	"revision",
	{ id: integer("id").primaryKey().default(1), number: bigint("number", { mode: "number" }).notNull().default(0) },
	(t) => [check("one_revision", sql`${t.id} = 1`)],
);

/** What can change beside deals: the settings are all of what is read beside them, the others parts of it that change often. */
export type ChangePart = "marks" | "targets" | "loose tasks" | "accounts" | "settings";

/** What changed at each revision: a deal, one part of the rest, or (null) anything at all. */
export const changeLog = pgTable(
	"change_log",
	{
		id: bigserial("id", { mode: "number" }).primaryKey(),
		revision: bigint("revision", { mode: "number" }).notNull(),
		dealId: text("deal_id"),
		part: text("part").$type<ChangePart>(),
	},
	(t) => [index("change_log_revision").on(t.revision)],
);

/** What a process keeps of all deals, as of a revision: a start reads it instead of every row, and follows the change log from there. */
export const snapshots = pgTable("snapshots", {
	/** −1 is the row that speaks of all blocks */
	block: integer("block").primaryKey(),
	form: text("form").notNull(),
	revision: bigint("revision", { mode: "number" }).notNull(),
	/** of what is saved, before it is compressed: what hasn't changed isn't written again */
	digest: text("digest").notNull(),
	bytes: bytes("bytes").notNull(),
});
