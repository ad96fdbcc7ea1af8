import { bigint, jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { Seal } from "../../core/bridge/seal";
import { instant } from "./columns";

export const marks = pgTable(
	"marks",
	{
		at: instant("at").notNull(),
		name: text("name").notNull(),
		byId: text("by_id"),
		/** what was open at that instant; null for marks that came with a bundle without one */
		seal: jsonb("seal").$type<Seal>(),
		/** the newest version that was known when it was sealed: what came later is a correction */
		newest: bigint("newest", { mode: "number" }),
	},
	(t) => [primaryKey({ columns: [t.at, t.name] })],
);
