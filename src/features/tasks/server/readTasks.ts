import { and, eq } from "drizzle-orm";
import type { Scope } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import type { TaskState } from "@/core/tasks/task";
import { type Day, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { page } from "@/platform/http/api";
import { reachOf } from "@/platform/reach";
import { sharingTeamsOf } from "@/platform/sharing";
import type { Viewpoint } from "@/platform/viewpoint";
import { isLate, ofScope, partsOf, type Standing, tasksOn } from "./standing";
import { byDue, inOrder } from "./taskOrder";
import { rowsOf, type TaskRow } from "./taskRows";

/** Tasks of the people of a scope, and on deals of theirs, seen on a day; open ones by due date first, then the last done. */
export const readTasks = query(
	"tasks.read",
	"readTasks",
	async (context: Context, scope: Scope, day: Day): Promise<TaskRow[]> => rowsOf(context, inOrder(partsOf(context, scope, day)), day),
);

/** The same for the API: of one state or deal, and only the part of the list that was asked for is read. */
export const listTasks = query(
	"tasks.list",
	"readTasks",
	async (context: Context, scope: Scope, asked: { state?: TaskState | undefined; deal?: string | undefined; cursor?: string | undefined; limit: number }) => {
		const { day } = context.now;
		const { dealIndex } = context.organisation;
		// A deal that isn't there has no tasks; those about no deal at all are none of its.
		if (asked.deal !== undefined && !dealIndex.has(asked.deal)) return { items: [], next: null };
		const deal = asked.deal === undefined ? undefined : dealIndex.get(asked.deal);
		const found = inOrder(partsOf(context, scope, day)).filter(
			(task) => (!asked.state || task.state === asked.state) && (deal === undefined || task.deal === deal),
		);
		const { items, next } = page(found, asked.cursor, asked.limit);
		return { items: await rowsOf(context, items, day), next };
	},
);

/** How many tasks of a viewpoint's people are late: what stands beside *Tasks* in the rail. */
export const countLate = query(
	"tasks.countLate",
	"readTasks",
	(context: Context, { whose, seen }: Viewpoint): number =>
		ofScope(context, tasksOn(context, seen.day, "open"), whose.scope).filter((task) => isLate(task, seen.day)).length,
);

/** The late tasks of some people, each by whom it was given to and its deal (indexes; NONE where there is none). */
export const lateTasks = query("tasks.late", "readTasks", (context: Context, scope: Scope, day: Day): { readonly assignee: number; readonly deal: number }[] =>
	ofScope(context, tasksOn(context, day, "open"), scope)
		.filter((task) => isLate(task, day))
		.map(({ task, deal }) => ({ assignee: task.assignee, deal })),
);

/** How many of the person's own tasks are due: what stands beside *My desk*. */
export const countDue = query("tasks.countDue", "readTasks", (context: Context, { seen }: Viewpoint): number => {
	const own = tasksOn(context, seen.day, "open").filter(({ task }) => task.assignee === context.actor.index);
	return own.filter(({ task }) => task.due === NO_DAY || task.due <= seen.day).length;
});

/** What a desk shows of tasks: one's own (those long done left out), those of a team that one may take, and what one has asked of others. */
export interface DeskTasks {
	readonly own: readonly TaskRow[];
	readonly toTake: readonly TaskRow[];
	readonly asked: readonly TaskRow[];
}

/** The tasks of a person's desk, seen on a day. */
export const readOwnTasks = query("tasks.own", "readDesk", async (context: Context, day: Day): Promise<DeskTasks> => {
	const me = context.actor.index;
	const all = tasksOn(context, day, "all");
	const own = all.filter(({ task }) => task.assignee === me && (task.state === "open" || task.doneDay > context.now.day - LONG_DONE));
	const open = all.filter(({ state, task }) => state === "open" && task.assignee !== me);
	const mine = sharingTeamsOf(context.organisation, { role: "rep", team: context.actor.person.team });
	const toTake = open.filter(({ task }) => task.assignee === NONE && task.team !== null && mine.includes(task.team));
	const given = new Set(
		(
			await connection()
				.db.select({ id: tasks.id })
				.from(tasks)
				.where(and(eq(tasks.createdById, context.actor.person.id), eq(tasks.state, "open")))
		).map(({ id }) => id),
	);
	const asked = ofScope(
		context,
		open.filter(({ id }) => given.has(id)),
		reachOf(context.organisation, context.actor),
	);
	const rows = (list: readonly Standing[]) => rowsOf(context, [...list].sort(byDue), day);
	return { own: await rows(own), toTake: await rows(toTake), asked: await rows(asked.filter((one) => !toTake.includes(one))) };
});
const LONG_DONE = 400;
