import { index, jsonb, pgTable, primaryKey, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { DealState } from "../../core/deal/state";
import type { RememberedPlan } from "../../formats/weekly/plan";
import { day, instant } from "./columns";
import { deals, stateColumns } from "./deals";

/** Weekly exports that were taken in; their versions carry `weekly:` and the id as their import. */
export const weeklyFiles = pgTable(
	"weekly_files",
	{
		id: text("id").primaryKey(),
		name: text("name").notNull(),
		day: day("day").notNull(),
		/** of the file's bytes, to know it again */
		digest: text("digest").notNull(),
		byId: text("by_id").notNull(),
		takenAt: instant("taken_at").notNull().defaultNow(),
		counts: jsonb("counts").notNull().$type<Record<string, number>>(),
		/** the part of the pipeline it is about; empty: all of it. Files of a day stand beside one another by it */
		covers: text("covers").notNull().default(""),
		/** how its columns and values were read: what the next file of its part begins with */
		plan: jsonb("plan").notNull().$type<Partial<RememberedPlan>>().default({}),
	},
	(t) => [uniqueIndex("weekly_files_day").on(t.day, t.covers)],
);

const fileId = () =>
	text("file_id")
		.notNull()
		.references(() => weeklyFiles.id, { onDelete: "cascade" });
const dealId = () =>
	text("deal_id")
		.notNull()
		.references(() => deals.id, { onDelete: "cascade" });

/** What each file said of each deal: late files and corrections are worked out from it. */
export const weeklyRows = pgTable(
	"weekly_rows",
	{
		fileId: fileId(),
		dealId: dealId(),
		/** the fields that the file has columns for; the others are null and unsaid */
		said: text("said").array().notNull().$type<(keyof DealState)[]>(),
		...stateColumns(),
	},
	(t) => [primaryKey({ columns: [t.fileId, t.dealId] }), index("weekly_rows_deal").on(t.dealId)],
);

export const DECISIONS = ["won", "lost", "removed", "open"] as const;

export type Decision = (typeof DECISIONS)[number];

/** Open deals that were in the file before and not in this one, with what was decided of them; null: not yet. */
export const weeklyMissing = pgTable(
	"weekly_missing",
	{
		fileId: fileId(),
		dealId: dealId(),
		decision: text("decision").$type<Decision>(),
		decidedBy: text("decided_by"),
		decidedAt: instant("decided_at"),
	},
	(t) => [primaryKey({ columns: [t.fileId, t.dealId] }), index("weekly_missing_deal").on(t.dealId)],
);
