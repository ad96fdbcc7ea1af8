import { jsonb, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import type { Seal } from "../../core/bridge/seal";
import { instant } from "./columns";

export const marks = pgTable(
	"marks",
	{
		at: instant("at").notNull(),
		name: text("name").notNull(),
		byId: text("by_id"),
		/** what was open at that instant, and the newest version that was known then; null for marks that came with a bundle */
		seal: jsonb("seal").$type<Seal & { readonly newest: number }>(),
	},
	(t) => [primaryKey({ columns: [t.at, t.name] })],
);
