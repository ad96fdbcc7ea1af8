import { boolean, doublePrecision, integer, pgTable, primaryKey, text } from "drizzle-orm/pg-core";
import { instant, wordsIndex } from "./columns";
import { deals } from "./deals";

export const questions = pgTable("questions", {
	id: text("id").primaryKey(),
	ordinal: integer("ordinal").notNull(),
	area: text("area").notNull(),
	prompt: text("prompt").notNull(),
	help: text("help"),
	weight: doublePrecision("weight").notNull(),
	dueStagePosition: integer("due_stage_position").notNull(),
	key: boolean("key").notNull().default(false),
});

/** The questions as they stood from an instant on. Empty until the first change; then the first edition is the one before it. */
export const questionEditions = pgTable(
	"question_editions",
	{
		at: instant("at").notNull(),
		questionId: text("question_id")
			.notNull()
			.references(() => questions.id),
		place: integer("place").notNull(),
		area: text("area").notNull(),
		prompt: text("prompt").notNull(),
		help: text("help"),
		weight: doublePrecision("weight").notNull(),
		dueStagePosition: integer("due_stage_position").notNull(),
		key: boolean("key").notNull().default(false),
	},
	(t) => [primaryKey({ columns: [t.at, t.questionId] })],
);

export const answers = pgTable(
	"answers",
	{
		dealId: text("deal_id")
			.notNull()
			.references(() => deals.id),
		questionId: text("question_id")
			.notNull()
			.references(() => questions.id),
		level: text("level").notNull(),
		note: text("note"),
		at: instant("at").notNull(),
		byId: text("by_id"),
		/** what shows it: `activity:` or `contact:` and an id, or a link */
		shownBy: text("shown_by"),
	},
	(t) => [primaryKey({ columns: [t.dealId, t.questionId, t.at] }), wordsIndex("answers_words", t.note)],
);
