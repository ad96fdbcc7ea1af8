import { index, pgTable, text } from "drizzle-orm/pg-core";
import { day, instant } from "./columns";
import { deals } from "./deals";
import { people } from "./people";

export const tasks = pgTable(
	"tasks",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id").references(() => deals.id),
		title: text("title").notNull(),
		assigneeId: text("assignee_id").references(() => people.id, { onUpdate: "cascade" }),
		dueOn: day("due_on"),
		createdAt: instant("created_at").notNull(),
		doneAt: instant("done_at"),
		state: text("state").notNull(),
		flags: text("flags").array().notNull().default([]),
		createdById: text("created_by_id"),
		note: text("note"),
	},
	(t) => [index("tasks_deal").on(t.dealId), index("tasks_assignee").on(t.assigneeId)],
);
