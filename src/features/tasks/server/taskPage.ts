import { and, eq, ilike } from "drizzle-orm";
import type { Scope } from "@/core/bridge/scope";
import { derived } from "@/core/derive";
import { RULES } from "@/core/flags/list";
import { NONE } from "@/core/history/columns";
import type { Day } from "@/core/time/day";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { packRows } from "@/formats/rowPack";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName } from "@/platform/names";
import { partsOf, type Standing } from "./standing";
import { belongs, groupTasks, TASK_VIEWS, type TaskGrouping, type TaskView } from "./taskGroups";
import { rowsOf, type TaskRow } from "./taskRows";

/** Which tasks are asked for: of a view, and of those the ones that fit. */
export interface TaskLook {
	readonly view: TaskView;
	readonly limit: number;
	readonly by?: TaskGrouping;
	readonly who?: string | undefined;
	readonly flag?: string | undefined;
	readonly importance?: string | undefined;
	readonly text?: string | undefined;
}

export interface TaskPage {
	readonly view: TaskView;
	/** how many there are in each view */
	readonly counts: Readonly<Record<TaskView, number>>;
	/** how many fit what was asked for besides */
	readonly found: number;
	/** the first of the view, group after group; within one the open ones by due date, others the last done first */
	readonly rows: readonly TaskRow[];
	/** those after them, packed */
	readonly rest: string;
	readonly groups: readonly { readonly key: string; readonly label: string; readonly count: number; readonly first: number }[];
	/** the people who have any, and the flags that any are to clear */
	readonly people: readonly { readonly id: string; readonly name: string }[];
	readonly flags: readonly { readonly code: string; readonly name: string }[];
}

/** what fills the first screens is written by the server; the rest of a long list goes over as one text, and is drawn in the browser */
const AT_FIRST = 60;

/** One view of the tasks of a scope seen on a day: how many there are, and the `limit` first ones of those that fit. */
export const readTaskPage = query("tasks.page", "readTasks", async (context: Context, scope: Scope, day: Day, look: TaskLook): Promise<TaskPage> => {
	const { rows, ...rest } = await readTaskView(context, scope, day, look);
	return { ...rest, rows: rows.slice(0, AT_FIRST), rest: packRows(rows.slice(AT_FIRST)) };
});

/** The same with all of its rows as they are. */
export const readTaskView = query(
	"tasks.view",
	"readTasks",
	async (context: Context, scope: Scope, day: Day, look: TaskLook): Promise<Omit<TaskPage, "rest">> => {
		const narrowed = look.who ?? look.flag ?? look.importance ?? look.text;
		const all = partsOf(context, scope, day);
		const fits = narrowed === undefined ? null : await fitting(context, look);
		const grouped = groupTasks(context, fits ? all.map((part) => part.filter(fits)) : all, { view: look.view, by: look.by ?? "due", day, limit: look.limit });
		return { view: look.view, found: grouped.found, rows: await rowsOf(context, grouped.rows, day), groups: grouped.groups, ...countsOf(context, all, day) };
	},
);

/** How many tasks there are in each view, and whose they are and which flags they are to clear. */
function countsOf({ organisation }: Context, parts: readonly (readonly Standing[])[], day: Day): Pick<TaskPage, "counts" | "people" | "flags"> {
	const counts = { open: 0, late: 0, done: 0, dropped: 0 };
	const [people, flags] = [new Set<number>(), new Set<string>()];
	for (const part of parts) {
		const own = countsIn(part, day);
		for (const view of TASK_VIEWS) counts[view] += own.counts[view];
		for (const person of own.people) people.add(person);
		for (const flag of own.flags) flags.add(flag);
	}
	return {
		counts,
		people: [...people]
			.flatMap((index) => organisation.people[index] ?? [])
			.map(({ id, name }) => ({ id, name }))
			.sort((a, b) => a.name.localeCompare(b.name)),
		flags: RULES.filter(({ code }) => flags.has(code)).map(({ code, name }) => ({ code, name })),
	};
}

const countsIn = derived("tasks counted", (part: readonly Standing[], day: Day) => ({
	counts: Object.fromEntries(TASK_VIEWS.map((view) => [view, part.filter((task) => belongs(task, view, day)).length])) as Record<TaskView, number>,
	people: new Set(part.map(({ task }) => task.assignee)),
	flags: new Set(part.flatMap(({ task }) => task.flags)),
}));

/** Whether a task fits what is asked for; titles and importance are asked of the database. */
async function fitting(context: Context, { who, flag, importance, text }: TaskLook): Promise<(task: Standing) => boolean> {
	const { organisation } = context;
	const index = who === undefined ? null : (organisation.personIndex.get(who) ?? Number.NaN);
	const like = `%${(text ?? "").replace(/[\\%_]/g, "\\$&")}%`;
	const ids =
		importance === undefined && !text
			? null
			: new Set(
					(
						await connection()
							.db.select({ id: tasks.id })
							.from(tasks)
							.where(and(importance === undefined ? undefined : eq(tasks.importance, importance), text ? ilike(tasks.title, like) : undefined))
					).map(({ id }) => id),
				);
	const named = (task: Standing) =>
		text !== undefined &&
		task.deal !== NONE &&
		`${dealName(organisation, task.deal)} ${accountName(organisation, task.deal)}`.toLowerCase().includes(text.toLowerCase());
	return (task) =>
		(index === null || (who === "anyone" ? task.task.assignee === NONE : task.task.assignee === index)) &&
		(flag === undefined || task.task.flags.includes(flag)) &&
		(ids === null || ids.has(task.id) || (importance === undefined && named(task)));
}
