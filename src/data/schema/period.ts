import { doublePrecision, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { Move } from "../../core/period/try";
import { day, instant } from "./columns";
import { people } from "./people";

/** What of a figure of the period is still all right, for a team or (empty) for everyone. */
export const thresholds = pgTable(
	"thresholds",
	{
		team: text("team").notNull().default(""),
		figure: text("figure").notNull(),
		/** at most or at least so much */
		side: text("side").notNull().$type<"most" | "least">(),
		/** in the figure's own unit; amounts in base minor units */
		value: doublePrecision("value").notNull(),
	},
	(t) => [primaryKey({ columns: [t.team, t.figure] })],
);

/** What somebody tried on a copy of a period: which deals were moved, and on which day. */
export const tries = pgTable("tries", {
	id: text("id").primaryKey(),
	ownerId: text("owner_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	name: text("name").notNull(),
	/** whose deals, and due when, as they stand in an address */
	whose: text("whose").notNull(),
	due: text("due").notNull(),
	madeOn: day("made_on").notNull(),
	moves: jsonb("moves").notNull().$type<Move[]>(),
	/** the team that sees it too, with the teams below; null while private */
	sharedWith: text("shared_with"),
	createdAt: instant("created_at").notNull().defaultNow(),
});
