import { eq } from "drizzle-orm";
import { surveyOn } from "@/core/survey";
import { formatDay, parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { taskChanges, tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { newId } from "@/platform/ids";
import { nextOfRepeat } from "./nextOfRepeat";
import type { StoredTask } from "./storedTask";

/** Gives the next task of a repeat rule, as long as its deal is open; gives its id. */
export async function createNextTask(tx: Tx, context: Context, task: StoredTask, change: number): Promise<string | null> {
	if (!task.repeat || task.dueOn === null) return null;
	const { company, dealIndex } = context.organisation;
	const deal = task.dealId === null ? null : surveyOn(company, context.now.day).deals[dealIndex.get(task.dealId) ?? -1];
	if (task.dealId !== null && deal?.status !== "open") return null;
	const due = nextOfRepeat(task.repeat, parseDay(task.dueOn) ?? context.now.day, context.now.day, company.rules.calendar);
	if (due === null) return null;
	const id = newId("task");
	await tx.insert(tasks).values({
		...task,
		id,
		dueOn: formatDay(due),
		createdAt: new Date(context.now.instant),
		doneAt: null,
		state: "open",
		note: null,
		checklist: task.checklist.map(({ words }) => ({ words, done: false })),
		seriesId: task.seriesId ?? task.id,
		remindOn: null,
		// What comes again isn't promised anew.
		roundId: null,
	});
	await tx.update(taskChanges).set({ made: id }).where(eq(taskChanges.id, change));
	return id;
}
