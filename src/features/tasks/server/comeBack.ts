import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { tasks } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { dealName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";

/** Gives whoever lost a deal the task to come back to it on a day; whoever gives it takes it when they have left. */
export const comeBack = command({
	name: "tasks.comeBack",
	right: "assignTasks",
	input: z.object({
		dealId: idSchema,
		day: dayInput,
		title: z.string().trim().min(1, "Enter the task.").max(300, "A task has at most 300 letters."),
	}),
	async run({ context, input: { dealId, day, title }, tx }) {
		const { organisation, actor, now } = context;
		const { seen, index } = reachDeal(context, dealId);
		if (seen.status !== "lost") throw new Fault(409, "Not lost", `${dealName(organisation, index)} is ${seen.status}; only lost deals can be followed up.`);
		if (day <= formatDay(now.day)) throw new Fault(422, "The day has passed", `Choose a day after ${formatDay(now.day)}.`);
		const owner = organisation.people[seen.owner];
		const assignee = owner && worksOn(owner, now.day) ? owner : actor.person;
		const id = newId("task");
		await tx.insert(tasks).values({
			id,
			dealId,
			title,
			assigneeId: assignee.id,
			dueOn: day,
			createdAt: new Date(now.instant),
			state: "open",
			flags: [],
			createdById: actor.person.id,
		});
		return { result: { id, assignee: assignee.name }, touched: [dealId], audit: { action: "tasks given", detail: { tasks: [id], title } } };
	},
});
