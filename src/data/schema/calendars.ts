import { pgTable, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { people } from "./people";

/** The secret address of a person's calendar: its token is stored as its hash alone. */
export const feeds = pgTable("feeds", {
	personId: text("person_id")
		.primaryKey()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	tokenHash: text("token_hash").notNull().unique(),
	madeAt: instant("made_at").notNull(),
});
