import { eq } from "drizzle-orm";
import { z } from "zod";
import { DIRECTIONS } from "@/core/contact/contact";
import { formatDay, parseDay } from "@/core/time/day";
import { activities, contacts, dealContacts } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { dayInput, idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

/** Logs what was said or done with the buyer, or what is planned: on a day to come, or today when it is still to happen. */
export const logActivity = command({
	name: "sheet.logActivity",
	right: "writeNotes",
	input: z
		.object({
			dealId: idSchema,
			kind: z.string().min(1).max(60),
			direction: z.enum(DIRECTIONS),
			subject: z.string().trim().min(1, "Say in a few words what it was about.").max(500, "A subject has at most 500 letters."),
			body: z.string().trim().max(10_000, "An activity has at most 10 000 letters.").nullable().optional(),
			contactIds: z.array(idSchema).max(50).default([]),
			/** the day it took or takes place; a day to come makes it planned */
			day: dayInput.optional(),
		})
		.meta({ id: "NewActivity" }),
	async run({ context, input, tx }) {
		const { organisation, actor, now } = context;
		const { dealId, kind, direction, subject, contactIds } = input;
		const { attributes } = reachDeal(context, dealId);
		if (!organisation.activityKinds.includes(kind))
			throw new Fault(422, "No such kind", `There is no activity of the kind ${kind}; there are ${organisation.activityKinds.join(", ")}.`);
		const day = parseDay(input.day ?? formatDay(now.day)) ?? now.day;
		const planned = day > now.day;
		const { zone } = organisation.company.rules;
		const known = await tx
			.select({ id: contacts.id })
			.from(dealContacts)
			.innerJoin(contacts, eq(contacts.id, dealContacts.contactId))
			.where(eq(dealContacts.dealId, dealId));
		const strange = contactIds.find((contact) => !known.some((one) => one.id === contact));
		if (strange !== undefined) throw notFound("contact", strange);
		const id = newId("activity");
		await tx.insert(activities).values({
			id,
			dealId,
			accountId: attributes.accountId,
			contactIds,
			kind,
			direction,
			state: planned ? "planned" : "done",
			// Of a day before or to come the hour is that of the writing: what is written one after another stays so.
			at: new Date(zone.instantAt(day, now.instant - zone.instantAt(now.day, 0))),
			recordedAt: new Date(now.instant),
			byId: actor.person.id,
			subject,
			body: input.body || null,
		});
		return {
			result: { id, planned },
			touched: organisation.company.rules.absent?.size ? { deals: [dealId], parts: ["settings"] } : [dealId],
			audit: { action: "activity logged", subject: dealId, detail: { activity: id } },
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
				throw new Fault(403, "Not allowed", "Only what you have logged here yourself can be taken back.");
			await tx.delete(activities).where(eq(activities.id, id));
		} else {
			if (activity.state !== "planned") throw new Fault(409, "Already settled", "This activity is done already.");
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
				action: what === "back" ? "activity taken back" : "activity done",
				subject: activity.dealId,
				detail: { activity: id, subject: activity.subject },
			},
		};
	},
});
