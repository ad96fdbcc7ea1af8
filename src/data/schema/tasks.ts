import { boolean, index, integer, jsonb, pgTable, serial, text } from "drizzle-orm/pg-core";
import { accounts } from "./accounts";
import { day, instant, uid } from "./columns";
import { deals } from "./deals";
import { people } from "./people";

/** One thing among several that make a task. */
export interface ChecklistItem {
	readonly words: string;
	readonly done: boolean;
}

export const tasks = pgTable(
	"tasks",
	{
		id: text("id").primaryKey(),
		dealId: text("deal_id").references(() => deals.id),
		/** of one about an account beside its deals */
		accountId: text("account_id").references(() => accounts.id, { onDelete: "set null" }),
		title: text("title").notNull(),
		/** null while anyone of the team may take it */
		assigneeId: text("assignee_id").references(() => people.id, { onUpdate: "cascade" }),
		dueOn: day("due_on"),
		createdAt: instant("created_at").notNull(),
		doneAt: instant("done_at"),
		state: text("state").notNull(),
		flags: text("flags").array().notNull().default([]),
		createdById: text("created_by_id"),
		note: text("note"),
		team: text("team"),
		importance: text("importance").notNull().default("usual"),
		/** the kind of activity by whose logging it is done; null: none is asked for */
		asks: text("asks"),
		checklist: jsonb("checklist").notNull().default([]).$type<ChecklistItem[]>(),
		/** an RRULE (RFC 5545) without its name; the next one is given when this one is done or dropped */
		repeat: text("repeat"),
		/** what was given by the same repeat rule, or in the same kit */
		seriesId: text("series_id"),
		remindOn: day("remind_on"),
		/** the reminder comes only if nobody on the deal's other side has answered since the task was given */
		remindUnlessAnswered: boolean("remind_unless_answered").notNull().default(false),
		/** the round in which it was promised */
		roundId: text("round_id"),
	},
	(t) => [
		index("tasks_deal").on(t.dealId),
		index("tasks_account").on(t.accountId),
		index("tasks_assignee").on(t.assigneeId),
		index("tasks_round").on(t.roundId),
		index("tasks_given_by").on(t.createdById),
	],
);

/** How a task stood before it was changed. */
export interface TaskBefore {
	readonly title: string;
	readonly dueOn: string | null;
	readonly assigneeId: string | null;
	readonly team: string | null;
	readonly state: string;
	readonly doneAt: string | null;
	readonly note: string | null;
	readonly importance: string;
	readonly checklist: readonly ChecklistItem[];
}

/** Each change of a task, with what stood before it: from it the past of a task is read, and a change is undone. */
export const taskChanges = pgTable(
	"task_changes",
	{
		id: serial("id").primaryKey(),
		/** names it in bundles: the number is this installation's own */
		uid: uid(),
		taskId: text("task_id")
			.notNull()
			.references(() => tasks.id, { onDelete: "cascade", onUpdate: "cascade" }),
		at: instant("at").notNull(),
		byId: text("by_id"),
		what: text("what").notNull(),
		before: jsonb("before").notNull().$type<TaskBefore>(),
		why: text("why"),
		/** the task that was given by it: the next of a repeat rule */
		made: text("made"),
	},
	(t) => [index("task_changes_task").on(t.taskId)],
);

/** A task of a kit, given so many working days after the kit is. */
export interface KitStep {
	readonly title: string;
	readonly days: number;
	readonly importance: string;
	readonly asks: string | null;
	readonly flags: readonly string[];
	readonly checklist: readonly string[];
}

/** Named sets of tasks with offsets. */
export const kits = pgTable("kits", {
	id: text("id").primaryKey(),
	name: text("name").notNull().unique(),
	about: text("about").notNull().default(""),
	steps: jsonb("steps").notNull().$type<KitStep[]>(),
	version: integer("version").notNull().default(1),
});
