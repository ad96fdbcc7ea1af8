import { eq } from "drizzle-orm";
import { z } from "zod";
import { activities } from "@/data/schema";
import { activityFields, touchedByActivity, writeActivity } from "@/platform/activities";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

/** Logs what was said or done with the buyer, or what is planned: on a day to come, or today when it is still to happen. */
export const logActivity = command({
	name: "sheet.logActivity",
	right: "writeNotes",
	input: z.object({ dealId: idSchema, ...activityFields }).meta({ id: "NewActivity" }),
	async run({ context, input, tx }) {
		const { id, planned } = await writeActivity(tx, context, input);
		return {
			result: { id, planned },
			touched: touchedByActivity(context, input.dealId),
			audit: { action: "activity logged", subject: input.dealId, detail: { kind: input.kind, subject: input.subject, planned } },
		};
	},
});

/** Takes an activity back that the person has logged, or says that a planned one took place. */
export const settleActivity = command({
	name: "sheet.settleActivity",
	right: "writeNotes",
	input: z.object({ id: idSchema, what: z.enum(["back", "done"]) }),
	async run({ context, input: { id, what }, tx }) {
		const { now, organisation, actor } = context;
		const [activity] = await tx.select().from(activities).where(eq(activities.id, id)).for("update");
		if (!activity?.dealId) throw notFound("activity", id);
		reachDeal(context, activity.dealId);
		if (what === "back") {
			if (activity.byId !== actor.person.id || !id.startsWith("activity-"))
				throw new Fault(403, "Not allowed", "You can delete only activities you logged here yourself.");
			await tx.delete(activities).where(eq(activities.id, id));
		} else {
			if (activity.state !== "planned") throw new Fault(409, "Already settled", "This activity is already done.");
			const stillAhead = organisation.company.rules.zone.dayOf(activity.at.getTime()) >= now.day;
			await tx
				.update(activities)
				.set({ state: "done", plannedFor: activity.at, settledAt: new Date(now.instant), ...(stillAhead ? { at: new Date(now.instant) } : {}) })
				.where(eq(activities.id, id));
		}
		return {
			result: {},
			touched: [activity.dealId],
			audit: {
				action: what === "back" ? "activity deleted" : "activity done",
				subject: activity.dealId,
				detail: { activity: id, subject: activity.subject },
			},
		};
	},
});
