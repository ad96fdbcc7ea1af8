import { NONE } from "@/core/history/columns";
import type { TaskFacts, TaskState, TaskWas } from "@/core/tasks/task";
import { NO_DAY } from "@/core/time/day";
import type { Zone } from "@/core/time/zone";
import type { TaskBefore } from "../schema";
import type { OrganisationState } from "./state";
import { dayIn, type Stored, text } from "./stored";

/** What the core reads of a stored task, with how it stood before each change. */
export function taskFacts(row: Stored, zone: Zone, { personIndex }: Pick<OrganisationState, "personIndex">): TaskFacts {
	return {
		id: String(row.id),
		assignee: personIndex.get(String(row.assignee_id)) ?? NONE,
		team: text(row.team),
		flags: row.flags as string[],
		createdDay: zone.dayOf(Number(row.created_at)),
		due: dayIn(row.due_on),
		state: row.state as TaskState,
		doneDay: row.done_at === null ? NO_DAY : zone.dayOf(Number(row.done_at)),
		doneAt: row.done_at === null ? Number.NaN : Number(row.done_at),
		former: ((row.former ?? []) as FormerTask[]).map(
			({ at, before }): TaskWas => ({
				until: zone.dayOf(at),
				assignee: personIndex.get(before.assigneeId ?? "") ?? NONE,
				team: before.team,
				due: dayIn(before.dueOn),
				state: before.state as TaskState,
				doneDay: before.doneAt === null ? NO_DAY : zone.dayOf(Date.parse(before.doneAt)),
				doneAt: before.doneAt === null ? Number.NaN : Date.parse(before.doneAt),
				note: before.note,
			}),
		),
	};
}

interface FormerTask {
	readonly at: number;
	readonly before: TaskBefore;
}
