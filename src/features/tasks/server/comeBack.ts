import { randomUUID } from "node:crypto";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { tasks } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";

export const comeBackSchema = z.object({
	day: z.iso.date("This isn't a day that exists."),
	title: z.string().trim().min(1, "Say what is to be done.").max(300, "A task has at most 300 letters."),
});

/** Gives whoever lost a deal the task to come back to it on a day; its manager takes it when they have left. */
export async function comeBack(context: Context, dealId: string, input: z.infer<typeof comeBackSchema>): Promise<{ id: string; assignee: string }> {
	demand(context.actor, "assignTasks");
	const { day, title } = comeBackSchema.parse(input);
	const { organisation, actor, now } = context;
	const { seen, name } = reachDeal(context, dealId);
	if (seen.status !== "lost") throw new Fault(409, "Not lost", `${name.name} is ${seen.status}; one comes back to lost deals.`);
	if (day <= formatDay(now.day)) throw new Fault(422, "The day has passed", `Come back on a day after ${formatDay(now.day)}.`);
	const owner = organisation.people[seen.owner];
	const assignee = owner && worksOn(owner, now.day) ? owner : actor.person;
	const id = `task-${randomUUID()}`;
	await connection().db.transaction(async (tx) => {
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
		await record(tx, context, "tasks given", null, { tasks: [id], title });
		await touch(tx, [dealId]);
	});
	return { id, assignee: assignee.name };
}
