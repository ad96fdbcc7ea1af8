import { and, eq, ilike } from "drizzle-orm";
import type { Scope } from "@/core/bridge/scope";
import { derive } from "@/core/derive";
import { RULES } from "@/core/flags/list";
import { NONE } from "@/core/history/columns";
import { type Day, NO_DAY } from "@/core/time/day";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { packRows } from "@/formats/rowPack";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { inOrder, tasksOf } from "./readTasks";
import { isLate, type Standing } from "./standing";
import { rowsOf, type TaskRow } from "./taskRows";

export const TASK_VIEWS = ["open", "late", "done", "dropped"] as const;
export type TaskView = (typeof TASK_VIEWS)[number];

/** What a list of tasks is grouped by. */
export const TASK_GROUPS = ["due", "rep", "deal", "flag"] as const;
export type TaskGrouping = (typeof TASK_GROUPS)[number];

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

const belongs = (task: Standing, view: TaskView, day: Day) => (view === "late" ? isLate(task, day) : task.state === view);

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
		const kept = <T>(kind: string, key: string, make: () => T) =>
			derive(context.organisation, kind, `${day} ${context.now.day} ${scope === null ? "" : [...scope].join(",")} ${key}`, make);
		const all = tasksOf(context, scope, day);
		const by = look.by ?? "due";
		const order = (wanted: (task: Standing) => boolean) =>
			groupsOf(context, inOrder(all.filter((task) => belongs(task, look.view, day) && wanted(task))), by, day);
		const narrowed = look.who ?? look.flag ?? look.importance ?? look.text;
		const grouped = narrowed === undefined ? kept("tasks in order", `${look.view} ${by}`, () => order(() => true)) : order(await fitting(context, look));
		return {
			view: look.view,
			found: grouped.order.length,
			rows: await rowsOf(context, grouped.order.slice(0, look.limit), day),
			groups: grouped.groups,
			...kept("tasks counted", "", () => countsOf(context, all, day)),
		};
	},
);

/** How many tasks there are in each view, and whose they are and which flags they are to clear. */
function countsOf({ organisation }: Context, all: readonly Standing[], day: Day): Pick<TaskPage, "counts" | "people" | "flags"> {
	const flags = new Set(all.flatMap(({ task }) => task.flags));
	return {
		counts: Object.fromEntries(TASK_VIEWS.map((view) => [view, all.filter((task) => belongs(task, view, day)).length])) as Record<TaskView, number>,
		people: [...new Set(all.map(({ task }) => task.assignee))]
			.flatMap((index) => organisation.people[index] ?? [])
			.map(({ id, name }) => ({ id, name }))
			.sort((a, b) => a.name.localeCompare(b.name)),
		flags: RULES.filter(({ code }) => flags.has(code)).map(({ code, name }) => ({ code, name })),
	};
}

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

/** Tasks group after group, with what each group is called; a task of several flags stands under its first. */
function groupsOf(context: Context, list: readonly Standing[], by: TaskGrouping, day: Day) {
	const { organisation } = context;
	const { calendar } = organisation.company.rules;
	const dueGroup = ({ task: { due }, state }: Standing): [number, string] => {
		if (state !== "open") return [0, state];
		if (due === NO_DAY) return [5, "no day"];
		if (due < day) return [0, "overdue"];
		if (due === day) return [1, "today"];
		if (due <= calendar.add(day, 1)) return [2, "the next working day"];
		return due <= day + 7 ? [3, "within a week"] : [4, "later"];
	};
	const groupOf = (one: Standing): [order: string, words: string] => {
		if (by === "due") {
			const [order, words] = dueGroup(one);
			return [String(order), words];
		}
		if (by === "rep") {
			const name = one.task.assignee === NONE ? (one.task.team === null ? "nobody" : `anyone of ${one.task.team}`) : ownerName(organisation, one.task.assignee);
			return [name, name];
		}
		if (by === "deal") {
			const name = one.deal === NONE ? "No deal" : `${dealName(organisation, one.deal)}, ${accountName(organisation, one.deal)}`;
			return [one.deal === NONE ? "\uffff" : name, name];
		}
		const at = RULES.findIndex(({ code }) => code === one.task.flags[0]);
		return [String(at < 0 ? 99 : at).padStart(2, "0"), RULES[at]?.name ?? "no flag"];
	};
	const groups = new Map<string, { words: string; tasks: Standing[] }>();
	for (const one of list) {
		const [order, words] = groupOf(one);
		const group = groups.get(order) ?? { words, tasks: [] };
		groups.set(order, group);
		group.tasks.push(one);
	}
	const sorted = [...groups].sort(([a], [b]) => a.localeCompare(b));
	let first = 0;
	return {
		order: sorted.flatMap(([, group]) => group.tasks),
		groups: sorted.map(([key, { words, tasks: own }]) => {
			const group = { key, label: words, count: own.length, first };
			first += own.length;
			return group;
		}),
	};
}
