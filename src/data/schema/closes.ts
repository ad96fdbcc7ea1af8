import { sql } from "drizzle-orm";
import { bigint, integer, jsonb, pgTable, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { CloseAccount } from "../../core/period/closeAccount";
import { day, instant } from "./columns";

/**
 * How a period ended for some people, kept as it was told. A row is never changed but for its paragraph; what was corrected
 * since is another row, marked as a correction, and a period that was reopened keeps its rows too.
 */
export const closes = pgTable(
	"closes",
	{
		id: text("id").primaryKey(),
		/** whose deals, as it stands in an address */
		whose: text("whose").notNull(),
		start: day("start").notNull(),
		end: day("end").notNull(),
		/** 0: the close; from 1 on its corrections */
		correction: integer("correction").notNull().default(0),
		at: instant("at").notNull(),
		/** by the server's own time, whatever day the program is held at */
		really: instant("really").notNull().defaultNow(),
		/** null: it closed by itself */
		byId: text("by_id"),
		/** why it was corrected */
		why: text("why"),
		account: jsonb("account").notNull().$type<CloseAccount>(),
		/** SHA-256 of all of the above */
		seal: text("seal").notNull(),
		/** the newest version of a deal that was known then */
		newest: bigint("newest", { mode: "number" }).notNull(),
		note: text("note").notNull().default(""),
		noteById: text("note_by_id"),
		reopenedAt: instant("reopened_at"),
	},
	(t) => [uniqueIndex("closes_once").on(t.whose, t.start, t.end, t.correction).where(sql`${t.reopenedAt} is null`)],
);
