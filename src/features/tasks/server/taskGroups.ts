import { derive, keyOf } from "@/core/derive";
import { RULES } from "@/core/flags/list";
import { NONE } from "@/core/history/columns";
import { merged } from "@/core/merged";
import { type Day, NO_DAY } from "@/core/time/day";
import type { Context } from "@/platform/context";
import { accountName, dealName, ownerName } from "@/platform/names";
import { isLate, type Standing } from "./standing";
import { byDone, byDue } from "./taskOrder";

export const TASK_VIEWS = ["open", "late", "done", "dropped"] as const;
export type TaskView = (typeof TASK_VIEWS)[number];

/** What a list of tasks is grouped by. */
export const TASK_GROUPS = ["due", "rep", "deal", "flag"] as const;
export type TaskGrouping = (typeof TASK_GROUPS)[number];

/** Whether a task is in a view on a day. */
export const belongs = (task: Standing, view: TaskView, day: Day): boolean => (view === "late" ? isLate(task, day) : task.state === view);

export interface TaskGroup {
	readonly key: string;
	readonly label: string;
	readonly count: number;
	/** the place of its first task among all of the view */
	readonly first: number;
}

interface Asked {
	readonly view: TaskView;
	readonly by: TaskGrouping;
	readonly day: Day;
	readonly limit: number;
}

/** The tasks of a part by group, each group in its order. */
type Grouped = ReadonlyMap<string, { readonly label: string; readonly tasks: readonly Standing[] }>;

const NO_TASKS: readonly Standing[] = [];

/** The tasks of a view group after group, the first of them, and what each group is called; a task of several flags stands under its first. */
export function groupTasks(context: Context, parts: readonly (readonly Standing[])[], asked: Asked): { rows: Standing[]; found: number; groups: TaskGroup[] } {
	const { view, limit } = asked;
	const grouped = parts.map((part) => groupedIn(context, part, asked));
	const groups = new Map<string, { readonly label: string; count: number }>();
	for (const part of grouped) {
		for (const [key, { label, tasks }] of part) {
			const known = groups.get(key) ?? { label, count: 0 };
			known.count += tasks.length;
			groups.set(key, known);
		}
	}
	const rows: Standing[] = [];
	let found = 0;
	const listed = [...groups]
		.sort(([a], [b]) => a.localeCompare(b))
		.map(([key, { label, count }]): TaskGroup => {
			const first = found;
			found += count;
			if (first < limit) {
				const lists = grouped.map((part) => part.get(key)?.tasks ?? NO_TASKS);
				const compare = isClosed(view) ? byDone : byDue;
				rows.push(...merged(count > FEW ? lists : lists.filter(({ length }) => length), `tasks ${compare.name}`, compare, limit - first));
			}
			return { key, label, count, first };
		});
	return { rows, found, groups: listed };
}

/** Up to this many tasks of a group nothing is saved by keeping what was merged. */
const FEW = 500;
const isClosed = (view: TaskView) => view === "done" || view === "dropped";

function groupedIn(context: Context, part: readonly Standing[], { view, by, day }: Asked): Grouped {
	const { people, accounts, company } = context.organisation;
	return derive(part, "tasks grouped", keyOf(view, by, day, people, accounts, company.rules), () => {
		const groups = new Map<string, { label: string; tasks: Standing[] }>();
		for (const one of part) {
			if (!belongs(one, view, day)) continue;
			const [key, label] = groupOf(context, one, by, day);
			const group = groups.get(key) ?? { label, tasks: [] };
			groups.set(key, group);
			group.tasks.push(one);
		}
		for (const { tasks } of groups.values()) tasks.sort(isClosed(view) ? byDone : byDue);
		return groups;
	});
}

/** What a task is grouped under, with what orders groups. */
function groupOf({ organisation }: Context, one: Standing, by: TaskGrouping, day: Day): readonly [order: string, label: string] {
	if (by === "due") return dueGroup(organisation.company.rules.calendar.add(day, 1), one, day);
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
}

function dueGroup(nextWorkingDay: Day, { task: { due }, state }: Standing, day: Day): readonly [order: string, label: string] {
	if (state !== "open") return ["0", state];
	if (due === NO_DAY) return ["5", "no day"];
	if (due < day) return ["0", "overdue"];
	if (due === day) return ["1", "today"];
	if (due <= nextWorkingDay) return ["2", "the next working day"];
	return due <= day + 7 ? ["3", "within a week"] : ["4", "later"];
}
