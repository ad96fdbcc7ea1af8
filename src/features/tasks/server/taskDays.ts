import { ownerIn } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import { worksOn } from "@/core/people/person";
import { type Day, formatDay, NO_DAY } from "@/core/time/day";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { chosenName } from "@/platform/names";
import type { Viewpoint } from "@/platform/viewpoint";
import { ofScope, tasksOn } from "./standing";
import { rowsOf, type TaskRow } from "./taskRows";

/** Tasks by days: those due in a span, and the open ones that are overdue. */
export interface TaskDays {
	/** the days from the first to the last, ISO, each with whether it is worked on */
	readonly days: readonly { readonly day: string; readonly working: boolean; readonly today: boolean }[];
	readonly rows: readonly TaskRow[];
	/** how many open tasks are due before the span, and are not among the rows */
	readonly before: number;
	/** people in the order of names; null: anyone of a team */
	readonly people: readonly { readonly id: string | null; readonly name: string; readonly load: readonly number[] }[];
	readonly more: number;
}

/** more can't be read in a grid of days */
const MOST = 1000;

/** The tasks of a viewpoint that are due within some days, with how many open ones each person has on each. */
export const readTaskDays = query(
	"tasks.days",
	"readTasks",
	async (context: Context, { whose, seen }: Pick<Viewpoint, "whose" | "seen">, first: Day, last: Day): Promise<TaskDays> => {
		const { organisation } = context;
		const { calendar } = organisation.company.rules;
		const all = ofScope(context, tasksOn(context, seen.day, "all"), whose.scope).filter(({ state, task }) => state !== "dropped" && task.due !== NO_DAY);
		const within = all.filter(({ task }) => task.due >= first && task.due <= last).sort((a, b) => a.task.due - b.task.due || (a.id < b.id ? -1 : 1));
		const open = within.filter(({ state }) => state === "open");
		const days = Array.from({ length: last - first + 1 }, (_, i) => first + i);
		// Reps with nothing to do stand there too: something may be given to them.
		const reps = organisation.people.flatMap((person, i) => (person.role === "rep" && ownerIn(whose.scope, i) && worksOn(person, seen.day) ? [i] : []));
		const people = [...new Set([...within.map(({ task }) => task.assignee), ...reps])];
		return {
			days: days.map((day) => ({ day: formatDay(day), working: calendar.isWorking(day), today: day === seen.day })),
			rows: await rowsOf(context, within.slice(0, MOST), seen.day),
			before: all.filter(({ task, state }) => state === "open" && task.due < first).length,
			people: people
				.map((index) => ({
					id: index === NONE ? null : (organisation.people[index]?.id ?? null),
					name: index === NONE ? "anyone of a team" : chosenName(organisation, index),
					load: days.map((day) => open.filter(({ task }) => task.assignee === index && task.due === day).length),
				}))
				.sort((a, b) => Number(a.id === null) - Number(b.id === null) || a.name.localeCompare(b.name)),
			more: Math.max(0, within.length - MOST),
		};
	},
);
