import type { Scope } from "@/core/bridge/scope";
import { NONE } from "@/core/history/columns";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { isOpenOn, type TaskFacts, type TaskState, taskOn } from "@/core/tasks/task";
import { type Day, NO_DAY } from "@/core/time/day";
import { type OrganisationState, teamsUnder } from "@/data/organisation/state";
import { cached } from "@/platform/cached";
import type { Context } from "@/platform/context";
import { peopleIn, reaches, reachOf } from "@/platform/reach";
import { surveyOn } from "@/platform/survey";
import type { StoredTask } from "./storedTask";

/** A task as it stood on a day, and its deal by index; NONE where it is about none. */
export interface Standing {
	readonly id: string;
	readonly task: TaskFacts;
	readonly deal: number;
	readonly state: TaskState;
}

/** Whether a task is open past its due day; one without a day never is. */
export const isLate = ({ task, state }: Standing, day: Day): boolean => state === "open" && task.due !== NO_DAY && task.due < day;

/** All tasks there are, with their deals; from memory, put together once a write. */
export const allTasks = (organisation: OrganisationState): ReadonlyMap<string, TaskOfDeal> =>
	cached(organisation, "all tasks", "", () => {
		const all = new Map<string, TaskOfDeal>();
		organisation.company.deals.forEach(({ tasks }, deal) => {
			for (const task of tasks) all.set(task.id, { task, deal });
		});
		for (const task of organisation.looseTasks) all.set(task.id, { task, deal: NONE });
		return all;
	});

/** The tasks that had been given by a day, or those of them that were open then, each as it stood. */
export const tasksOn = ({ organisation }: Context, day: Day, which: "all" | "open"): readonly Standing[] =>
	cached(organisation, "tasks", `${which} ${day}`, () => {
		const found: Standing[] = [];
		for (const [id, { task: now, deal }] of allTasks(organisation)) {
			if (now.createdDay > day) continue;
			const task = taskOn(now, day);
			const open = isOpenOn(task, day);
			if (open || which === "all") found.push({ id, task, deal, state: open ? "open" : task.state });
		}
		return found;
	});

/** Some tasks in memory by id, with their deals; those that are gone are left out. */
export const tasksById = ({ organisation }: Context, ids: readonly string[]): TaskOfDeal[] => ids.flatMap((id) => allTasks(organisation).get(id) ?? []);

/** The tasks of a list that belong to a scope: by who is to do them, by their deal, or by their team. */
export const ofScope = (context: Context, list: readonly Standing[], scope: Scope): Standing[] =>
	list.filter(({ task, deal }) => isOfScope(context, task, deal, scope));

/** A task is seen by those who see its assignee's deals, or the deal it is about, or belong to the team that may take it. */
export function seesTask(context: Context, task: StoredTask): boolean {
	const { personIndex, dealIndex } = context.organisation;
	const deal = dealIndex.get(task.dealId ?? "") ?? NONE;
	const assignee = personIndex.get(task.assigneeId ?? "") ?? NONE;
	return isOfScope(context, { assignee, team: task.team }, deal, reachOf(context.organisation, context.actor));
}

function isOfScope(context: Context, { assignee, team }: Pick<TaskFacts, "assignee" | "team">, deal: number, scope: Scope): boolean {
	if (scope === null || reaches(scope, assignee)) return true;
	if (assignee === NONE && team !== null && [...peopleOfTeam(context.organisation, team)].some((person) => scope.has(person))) return true;
	if (deal === NONE) return false;
	return reaches(scope, surveyOn(context.organisation.company, context.now.day).deals[deal]?.owner ?? NONE);
}

/** People of a team and the teams below it, by index. */
export const peopleOfTeam = (organisation: OrganisationState, team: string): ReadonlySet<number> =>
	cached(organisation, "people of a team", team, () =>
		organisation.teams.has(team) ? peopleIn(organisation, teamsUnder(organisation, team)) : new Set<number>(),
	);
