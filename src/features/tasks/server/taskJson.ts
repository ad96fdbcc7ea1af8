import { z } from "zod";
import { isOpenOn, TASK_STATES } from "@/core/tasks/task";
import { NO_DAY, parseDay } from "@/core/time/day";
import type { OrganisationState } from "@/data/organisation/state";
import type { tasks } from "@/data/schema";

export const taskSchema = z
	.object({
		id: z.string(),
		dealId: z.string().nullable(),
		title: z.string(),
		assigneeId: z.string().nullable(),
		createdById: z.string().nullable(),
		dueOn: z.iso.date().nullable(),
		createdAt: z.iso.datetime(),
		doneAt: z.iso.datetime().nullable(),
		state: z.enum(TASK_STATES),
		overdue: z.boolean(),
		flags: z.array(z.string()),
		note: z.string().nullable(),
	})
	.meta({ id: "Task" });
export type TaskJson = z.infer<typeof taskSchema>;
export type StoredTask = typeof tasks.$inferSelect;

/** A task as seen on an ISO day: one that was done later was still open then, and nobody knew its note. */
export function taskJson(task: StoredTask, organisation: OrganisationState, seen: string): TaskJson {
	const { zone } = organisation.company.rules;
	const open = isOpenOn(
		{
			createdDay: zone.dayOf(task.createdAt.getTime()),
			due: parseDay(task.dueOn ?? "") ?? NO_DAY,
			state: task.state as TaskJson["state"],
			doneDay: task.doneAt ? zone.dayOf(task.doneAt.getTime()) : NO_DAY,
		},
		parseDay(seen) ?? NO_DAY,
	);
	return {
		id: task.id,
		dealId: task.dealId,
		title: task.title,
		assigneeId: task.assigneeId,
		createdById: task.createdById,
		dueOn: task.dueOn,
		createdAt: task.createdAt.toISOString(),
		doneAt: open ? null : (task.doneAt?.toISOString() ?? null),
		state: open ? "open" : (task.state as TaskJson["state"]),
		overdue: open && task.dueOn !== null && task.dueOn < seen,
		flags: task.flags,
		note: open ? null : task.note,
	};
}
