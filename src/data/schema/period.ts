import { doublePrecision, integer, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
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

/** A tile of a board: where it lies, what it is, and what it shows. */
export interface BoardTile {
	readonly id: string;
	readonly kind: string;
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
	/** a title of its own; empty: the kind's */
	readonly title: string;
	readonly settings: Readonly<Record<string, string>>;
}

/** Pages of tiles that people arrange for themselves and their team. */
export const boards = pgTable("boards", {
	id: text("id").primaryKey(),
	ownerId: text("owner_id")
		.notNull()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	name: text("name").notNull(),
	tiles: jsonb("tiles").notNull().$type<BoardTile[]>(),
	/** the team that sees and arranges it too, with the teams below; null while private */
	sharedWith: text("shared_with"),
	/** grows with each change, so that of two who arrange it at once neither overwrites the other unseen */
	version: integer("version").notNull().default(1),
	changedBy: text("changed_by"),
	createdAt: instant("created_at").notNull().defaultNow(),
});

/** The board that somebody opens the program with. */
export const boardOpenings = pgTable("board_openings", {
	personId: text("person_id")
		.primaryKey()
		.references(() => people.id, { onDelete: "cascade", onUpdate: "cascade" }),
	boardId: text("board_id")
		.notNull()
		.references(() => boards.id, { onDelete: "cascade" }),
});
