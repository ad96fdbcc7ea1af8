import { LRUCache } from "lru-cache";
import type { Scope } from "@/core/bridge/scope";
import type { DealBlock } from "@/core/company";
import { derive, derived, keyOf } from "@/core/derive";
import { NONE } from "@/core/history/columns";
import { joined } from "@/core/joined";
import { surveyOn } from "@/core/survey";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { isOpenOn, type TaskFacts, type TaskState, taskOn } from "@/core/tasks/task";
import { type Day, NO_DAY } from "@/core/time/day";
import { type OrganisationState, teamsUnder } from "@/data/organisation/state";
import type { Context } from "@/platform/context";
import { peopleIn, reaches, reachOf } from "@/platform/reach";
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

/** The tasks of a block’s deals, by id. */
const tasksInBlock = derived(
	"tasks of a block",
	({ first, facts }: DealBlock): ReadonlyMap<string, TaskOfDeal> =>
		new Map(facts.flatMap(({ tasks }, place) => tasks.map((task) => [task.id, { task, deal: first + place }] as const))),
);

/** The tasks that are about no deal, by id. */
const looseTasks = derived(
	"loose tasks",
	(tasks: readonly TaskFacts[]): ReadonlyMap<string, TaskOfDeal> => new Map(tasks.map((task) => [task.id, { task, deal: NONE }])),
);

/** All tasks there are, with their deals, in parts; from memory. */
const allTasks = derived("all tasks", ({ company, looseTasks: loose }: OrganisationState): readonly ReadonlyMap<string, TaskOfDeal>[] => [
	...company.blocks.map((block) => tasksInBlock(block)),
	looseTasks(loose),
]);

/** The tasks that had been given by a day, or those of them that were open then, each as it stood. */
export const tasksOn = ({ organisation }: Context, day: Day, which: "all" | "open"): readonly Standing[] =>
	derive(organisation, "tasks", `${which} ${day}`, () => joined(allTasks(organisation).map((part) => standingIn(part, day, which))));

/** The same of a part of the tasks. */
const standingIn = derived("tasks standing", (part: ReadonlyMap<string, TaskOfDeal>, day: Day, which: "all" | "open"): readonly Standing[] => {
	const found: Standing[] = [];
	for (const [id, { task: now, deal }] of part) {
		if (now.createdDay > day) continue;
		const task = taskOn(now, day);
		const open = isOpenOn(task, day);
		if (open || which === "all") found.push({ id, task, deal, state: open ? "open" : task.state });
	}
	return found;
});

/** The tasks of a scope as they stood on a day, in parts: what isn't written to stays the same object. */
export function partsOf(context: Pick<Context, "organisation" | "now">, scope: Scope, day: Day): readonly (readonly Standing[])[] {
	const { organisation, now } = context;
	const key = keyOf(scope && [...scope].sort((a, b) => a - b).join(","), now.day, organisation.teams, organisation.people);
	return allTasks(organisation).map((part) => {
		const standing = standingIn(part, day, "all");
		// Whose a deal is hangs on its block, as its tasks do.
		return scope === null ? standing : derive(standing, "tasks of a scope", key, () => ofScope(context, standing, scope), 100);
	});
}

/** Some tasks in memory by id, with their deals; those that are gone are left out. */
export const tasksById = ({ organisation }: Context, ids: readonly string[]): TaskOfDeal[] => ids.flatMap((id) => taskById(organisation, id) ?? []);

/** The part in which a task was found last. */
const places = new LRUCache<string, number>({ max: 100_000 });

/** A task in memory by id, with its deal. */
export function taskById(organisation: OrganisationState, id: string): TaskOfDeal | undefined {
	const parts = allTasks(organisation);
	const known = parts[places.get(id) ?? -1]?.get(id);
	if (known) return known;
	const at = parts.findIndex((part) => part.has(id));
	if (at >= 0) places.set(id, at);
	return parts[at]?.get(id);
}

/** All tasks there are, with their deals. */
export const everyTask = (organisation: OrganisationState): readonly TaskOfDeal[] => joined(allTasks(organisation).map((part) => [...part.values()]));

/** The tasks of a list that belong to a scope: by who is to do them, by their deal, or by their team. */
export const ofScope = (context: Pick<Context, "organisation" | "now">, list: readonly Standing[], scope: Scope): Standing[] =>
	list.filter(({ task, deal }) => isOfScope(context, task, deal, scope));

/** A task is seen by those who see its assignee's deals, or the deal it is about, or belong to the team that may take it. */
export function seesTask(context: Context, task: StoredTask): boolean {
	const { personIndex, dealIndex } = context.organisation;
	const deal = dealIndex.get(task.dealId ?? "") ?? NONE;
	const assignee = personIndex.get(task.assigneeId ?? "") ?? NONE;
	return isOfScope(context, { assignee, team: task.team }, deal, reachOf(context.organisation, context.actor));
}

function isOfScope(
	context: Pick<Context, "organisation" | "now">,
	{ assignee, team }: Pick<TaskFacts, "assignee" | "team">,
	deal: number,
	scope: Scope,
): boolean {
	if (scope === null || reaches(scope, assignee)) return true;
	if (assignee === NONE && team !== null && [...peopleOfTeam(context.organisation, team)].some((person) => scope.has(person))) return true;
	if (deal === NONE) return false;
	return reaches(scope, surveyOn(context.organisation.company, context.now.day).deals[deal]?.owner ?? NONE);
}

/** People of a team and the teams below it, by index. */
export const peopleOfTeam = (organisation: OrganisationState, team: string): ReadonlySet<number> =>
	derive(organisation, "people of a team", team, () =>
		organisation.teams.has(team) ? peopleIn(organisation, teamsUnder(organisation, team)) : new Set<number>(),
	);
