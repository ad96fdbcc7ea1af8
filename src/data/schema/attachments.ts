import { bigint, index, integer, pgTable, text } from "drizzle-orm/pg-core";
import { accounts } from "./accounts";
import { bytes, instant, wordsIndex } from "./columns";
import { deals } from "./deals";
import { activities } from "./sheet";

/** Files and links kept with a deal, an account, or an activity of one of them. A file's bytes are `file_contents`, by their sum. */
export const attachments = pgTable(
	"attachments",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id").references(() => deals.id, { onDelete: "cascade" }),
		accountId: text("account_id").references(() => accounts.id, { onDelete: "cascade" }),
		/** the activity it came with; it stays with the deal or the account where that is deleted */
		activityId: text("activity_id").references(() => activities.id, { onDelete: "set null" }),
		name: text("name").notNull(),
		/** of a link: where it leads */
		url: text("url"),
		/** of a file: its media type as its content says, its bytes, and SHA-256 over them */
		type: text("type"),
		size: integer("size"),
		sha256: text("sha256"),
		addedAt: instant("added_at").notNull(),
		byId: text("by_id"),
		/** when it was taken away; days before still have it */
		removedAt: instant("removed_at"),
	},
	(t) => [
		index("attachments_deal").on(t.dealId),
		index("attachments_account").on(t.accountId),
		index("attachments_activity").on(t.activityId),
		index("attachments_sum").on(t.sha256),
		wordsIndex("attachments_words", t.name),
	],
);

/** Bytes of files, once each however often they are kept. With `PORCH_LAMP_FILES` they lie in that folder instead. */
export const fileContents = pgTable("file_contents", {
	sha256: text("sha256").primaryKey(),
	bytes: bytes("bytes").notNull(),
	size: bigint("size", { mode: "number" }).notNull(),
	/** when they were last handed in */
	keptAt: instant("kept_at").notNull().defaultNow(),
});
