import { z } from "zod";
import { NONE } from "@/core/history/columns";
import type { TaskOfDeal } from "@/core/tasks/followThrough";
import { OUTCOMES } from "@/core/tasks/outcome";
import { isOpenOn, movesOf, TASK_STATES, type TaskFacts, taskOn } from "@/core/tasks/task";
import { type Day, isoOrNull, NO_DAY, parseDay } from "@/core/time/day";
import type { Context } from "@/platform/context";
import { IMPORTANCE } from "../table/importance";
import { outcomesOn } from "./outcomes";
import { taskById } from "./standing";
import type { StoredTask } from "./storedTask";

export const outcomeSchema = z
	.object({
		flag: z.string(),
		state: z.enum(OUTCOMES).meta({ description: "what happened to the flag; see *outcomes* in the docs" }),
		on: z.iso.date().nullable().meta({ description: "the day it cleared, or its deal was closed" }),
	})
	.meta({ id: "Outcome" });

export const taskSchema = z
	.object({
		id: z.string(),
		dealId: z.string().nullable(),
		accountId: z.string().nullable().meta({ description: "of one about an account beside its deals" }),
		title: z.string(),
		assigneeId: z.string().nullable(),
		team: z.string().nullable().meta({ description: "the team in which anyone can take it, until someone does" }),
		createdById: z.string().nullable(),
		dueOn: z.iso.date().nullable(),
		createdAt: z.iso.datetime(),
		doneAt: z.iso.datetime().nullable(),
		state: z.enum(TASK_STATES),
		overdue: z.boolean(),
		flags: z.array(z.string()),
		note: z.string().nullable(),
		importance: z.enum(IMPORTANCE),
		asks: z.string().nullable().meta({ description: "the kind of activity by whose logging it is done" }),
		checklist: z.array(z.object({ words: z.string(), done: z.boolean() })),
		repeat: z.string().nullable().meta({ description: "an RRULE of RFC 5545 without its name" }),
		remindOn: z.iso.date().nullable(),
		remindUnlessAnswered: z.boolean(),
		outcomes: z.array(outcomeSchema),
		moves: z.object({ times: z.number().int(), workingDays: z.number().int() }),
	})
	.meta({ id: "Task" });
export type TaskJson = z.infer<typeof taskSchema>;

/** A task as seen on a day: one that was done later was still open then, nobody knew its note, and it was due and whose as it was then. */
export function taskJson(context: Context, task: StoredTask, day: Day): TaskJson {
	const { organisation } = context;
	const { calendar } = organisation.company.rules;
	const { task: facts, deal } = factsOf(context, task);
	const then = taskOn(facts, day);
	const open = isOpenOn(then, day);
	return {
		id: task.id,
		dealId: task.dealId,
		accountId: task.accountId,
		title: task.title,
		assigneeId: organisation.people[then.assignee]?.id ?? null,
		team: then.team,
		createdById: task.createdById,
		dueOn: isoOrNull(then.due),
		createdAt: task.createdAt.toISOString(),
		doneAt: open || Number.isNaN(then.doneAt) ? null : new Date(then.doneAt).toISOString(),
		state: open ? "open" : then.state,
		overdue: open && then.due !== NO_DAY && then.due < day,
		flags: task.flags,
		note: open ? null : noteOn(facts, task, day),
		importance: task.importance as TaskJson["importance"],
		asks: task.asks,
		checklist: task.checklist.map(({ words, done }) => ({ words, done })),
		repeat: task.repeat,
		remindOn: task.remindOn,
		remindUnlessAnswered: task.remindUnlessAnswered,
		outcomes: outcomesOn(context, { task: facts, deal }, day).map(({ flag, state, on }) => ({ flag, state, on: isoOrNull(on) })),
		moves: movesOf(facts, calendar, day),
	};
}

/** What was said of a task as it stood on a day. */
export const noteOn = (facts: TaskFacts, stored: StoredTask, day: Day): string | null => {
	const was = facts.former.find(({ until }) => until > day);
	return was ? was.note : stored.note;
};

/**
 * What the past of a task is read from: what is in memory, and where the stored row says otherwise (within the write that
 * changes it) that as its newest state.
 */
export function factsOf({ organisation, now }: Context, stored: StoredTask): TaskOfDeal {
	const known = taskById(organisation, stored.id);
	const assignee = organisation.personIndex.get(stored.assigneeId ?? "") ?? NONE;
	const due = parseDay(stored.dueOn ?? "") ?? NO_DAY;
	const doneAt = stored.doneAt?.getTime() ?? Number.NaN;
	// Days of instants are dear: of what is in memory as it is stored they are known.
	if (known) {
		const { task } = known;
		const sameEnd = task.doneAt === doneAt || (Number.isNaN(task.doneAt) && Number.isNaN(doneAt));
		if (sameEnd && task.assignee === assignee && task.team === stored.team && task.due === due && task.state === stored.state) return known;
	}
	const { zone } = organisation.company.rules;
	const fresh: TaskFacts = {
		id: stored.id,
		assignee,
		team: stored.team,
		flags: stored.flags,
		createdDay: zone.dayOf(stored.createdAt.getTime()),
		due,
		state: stored.state as TaskFacts["state"],
		doneDay: Number.isNaN(doneAt) ? NO_DAY : zone.dayOf(doneAt),
		doneAt,
		former: [],
	};
	if (!known) return { task: fresh, deal: organisation.dealIndex.get(stored.dealId ?? "") ?? NONE };
	return { deal: known.deal, task: { ...fresh, former: [...known.task.former, { ...known.task, until: now.day, note: null }] } };
}
