import { boolean, integer, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { people } from "./people";

/** A way of looking at deals or tasks that somebody keeps: the query of the address, and whom it is shared with. */
export const views = pgTable("views", {
	id: text("id").primaryKey(),
	ownerId: text("owner_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	/** the screen it is a view of, by its path without the slash */
	screen: text("screen").notNull().default("deals"),
	name: text("name").notNull(),
	query: text("query").notNull(),
	/** the team that sees it too, with the teams below; null while private */
	sharedWith: text("shared_with"),
	createdAt: instant("created_at").notNull().defaultNow(),
});

/** Where a person keeps a view in their own list, and whether its screen opens with it. */
export const viewPlaces = pgTable(
	"view_places",
	{
		personId: text("person_id")
			.notNull()
			.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
		viewId: text("view_id")
			.notNull()
			.references(() => views.id, { onDelete: "cascade" }),
		position: integer("position").notNull().default(0),
		opening: boolean("opening").notNull().default(false),
	},
	(t) => [primaryKey({ columns: [t.personId, t.viewId] })],
);
