import { and, asc, desc, eq, gte, inArray, isNull, lt, or, sql } from "drizzle-orm";
import type { Scope } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import { type Day, formatDay, isoOrNull } from "@/core/time/day";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { surveyOn } from "@/platform/survey";
import type { Viewpoint } from "@/platform/viewpoint";
import { type StoredTask, type TaskJson, taskJson } from "./taskJson";

/** A task with the names a list shows, and whether the flags it is to clear are lit on the seen day. */
export interface TaskRow extends TaskJson {
	readonly deal: string;
	readonly account: string;
	readonly amount: number;
	readonly close: string | null;
	readonly assignee: string;
	readonly givenBy: string | null;
	readonly givenOn: string;
	readonly doneOn: string | null;
	readonly flagsNow: readonly { readonly code: string; readonly lit: boolean }[];
	/** the deal is won or lost, or was gone on the seen day */
	readonly dealClosed: boolean;
}

/** Tasks of the people of a scope, and on deals of theirs, seen on a day; open ones by due date first, then the newest done. */
export const readTasks = query("tasks.read", "readTasks", async (context: Context, scope: Scope, day: Day): Promise<TaskRow[]> => {
	const { organisation } = context;
	const rows = await connection().db.select().from(tasks).orderBy(sql`(${tasks.state} = 'open') desc`, asc(tasks.dueOn), desc(tasks.doneAt), asc(tasks.id));
	return rows
		.filter((task) => isOfScope(context, task, scope) && organisation.company.rules.zone.dayOf(task.createdAt.getTime()) <= day)
		.map((task) => taskRow(context, task, day));
});

export const TASK_VIEWS = ["open", "late", "done", "dropped"] as const;
export type TaskView = (typeof TASK_VIEWS)[number];

export interface TaskPage {
	readonly view: TaskView;
	/** how many there are in each view */
	readonly counts: Readonly<Record<TaskView, number>>;
	/** the first of the view: open ones by due date, others the last done first */
	readonly rows: readonly TaskRow[];
}

/** One view of the tasks of a scope seen on a day: how many there are, and the `limit` first ones. */
export const readTaskPage = query(
	"tasks.page",
	"readTasks",
	async (context: Context, scope: Scope, day: Day, look: { view: TaskView; limit: number }): Promise<TaskPage> => {
		const { organisation } = context;
		const { zone } = organisation.company.rules;
		const today = formatDay(day);
		const end = new Date(zone.instantAt(day + 1, 0));
		const { id, dealId, assigneeId, dueOn, doneAt, state } = tasks;
		const known = await connection().db.select({ id, dealId, assigneeId, dueOn, doneAt, state }).from(tasks).where(lt(tasks.createdAt, end));
		// One that was done later was still open on that day.
		const standing = known
			.filter((task) => isOfScope(context, task, scope))
			.map((task) => ({ ...task, state: task.doneAt && task.doneAt >= end ? "open" : task.state }));
		const belongs = (task: (typeof standing)[number], view: TaskView) =>
			view === "late" ? task.state === "open" && task.dueOn !== null && task.dueOn < today : task.state === view;
		const byId = (a: { id: string }, b: { id: string }) => (a.id < b.id ? -1 : 1);
		const shown = standing.filter((task) => belongs(task, look.view));
		if (look.view === "open" || look.view === "late") shown.sort((a, b) => compareText(a.dueOn ?? "9", b.dueOn ?? "9") || byId(a, b));
		else shown.sort((a, b) => (b.doneAt?.getTime() ?? 0) - (a.doneAt?.getTime() ?? 0) || byId(a, b));
		const first = shown.slice(0, look.limit).map((task) => task.id);
		const stored = new Map((await tasksByIds(first)).map((task) => [task.id, task]));
		return {
			view: look.view,
			counts: Object.fromEntries(TASK_VIEWS.map((view) => [view, standing.filter((task) => belongs(task, view)).length])) as Record<TaskView, number>,
			rows: first.flatMap((one) => {
				const task = stored.get(one);
				return task ? [taskRow(context, task, day)] : [];
			}),
		};
	},
);

const compareText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** How many tasks of a scope are open on a day, and how many of the person's own are due: the counts beside the rail's words. */
export const countTasks = query("tasks.count", "readTasks", async (context: Context, scope: Scope, day: Day): Promise<{ open: number; due: number }> => {
	const { organisation, actor } = context;
	const end = new Date(organisation.company.rules.zone.instantAt(day + 1, 0));
	// Open on that day: given by its end, and not done before it.
	const rows = await connection()
		.db.select()
		.from(tasks)
		.where(and(lt(tasks.createdAt, end), or(isNull(tasks.doneAt), gte(tasks.doneAt, end))));
	const today = formatDay(day);
	const open = rows.filter((task) => task.state === "open" || task.doneAt !== null);
	return {
		open: open.filter((task) => isOfScope(context, task, scope)).length,
		due: open.filter((task) => task.assigneeId === actor.person.id && (task.dueOn ?? today) <= today).length,
	};
});

/** How many tasks of a viewpoint's people are open: what stands beside *Tasks* in the rail. */
export const countOpen = async (context: Context, { whose, seen }: Viewpoint): Promise<number> => (await countTasks(context, whose.scope, seen.day)).open;

/** How many of the person's own tasks are due: what stands beside *My desk*. */
export const countDue = async (context: Context, { whose, seen }: Viewpoint): Promise<number> => (await countTasks(context, whose.scope, seen.day)).due;

/** The same by the people they were given to: what a desk shows. */
export const readOwnTasks = query("tasks.own", "readDesk", async (context: Context, day: Day): Promise<TaskRow[]> => {
	const rows = await connection()
		.db.select()
		.from(tasks)
		.where(and(eq(tasks.assigneeId, context.actor.person.id), or(eq(tasks.state, "open"), sql`${tasks.doneAt} > now() - interval '400 days'`)))
		.orderBy(asc(tasks.dueOn), asc(tasks.id));
	return rows.filter((task) => context.organisation.company.rules.zone.dayOf(task.createdAt.getTime()) <= day).map((task) => taskRow(context, task, day));
});

export async function tasksByIds(ids: readonly string[]): Promise<StoredTask[]> {
	return ids.length
		? connection()
				.db.select()
				.from(tasks)
				.where(inArray(tasks.id, [...ids]))
		: [];
}

/** A task is seen by those who see its assignee's deals, or the deal it is about. */
export function seesTask(context: Context, task: StoredTask): boolean {
	return isOfScope(context, task, reachOf(context.organisation, context.actor));
}

function isOfScope(context: Context, task: Pick<StoredTask, "assigneeId" | "dealId">, scope: Scope): boolean {
	const { organisation } = context;
	if (reaches(scope, organisation.personIndex.get(task.assigneeId ?? "") ?? NONE)) return true;
	const deal = organisation.dealIndex.get(task.dealId ?? "");
	if (deal === undefined) return scope === null;
	return reaches(scope, surveyOn(organisation.company, context.now.day).deals[deal]?.owner ?? NONE);
}

function taskRow(context: Context, task: StoredTask, day: Day): TaskRow {
	const { organisation } = context;
	const { zone } = organisation.company.rules;
	const json = taskJson(task, organisation, formatDay(day));
	const deal = organisation.dealIndex.get(task.dealId ?? "");
	const seen = deal === undefined ? null : surveyOn(organisation.company, day).deals[deal];
	const name = (id: string | null) => ownerName(organisation, organisation.personIndex.get(id ?? "") ?? NONE);
	return {
		...json,
		deal: deal === undefined ? "No deal" : dealName(organisation, deal),
		account: deal === undefined ? "" : accountName(organisation, deal),
		amount: seen?.amountBase ?? 0,
		close: seen ? isoOrNull(seen.close) : null,
		assignee: name(task.assigneeId),
		givenBy: task.createdById ? name(task.createdById) : null,
		givenOn: formatDay(zone.dayOf(task.createdAt.getTime())),
		doneOn: json.doneAt ? formatDay(zone.dayOf(new Date(json.doneAt).getTime())) : null,
		flagsNow: task.flags.map((code) => ({ code, lit: seen?.flags.some((flag) => flag.code === code) ?? false })),
		dealClosed: seen?.status !== "open",
	};
}
