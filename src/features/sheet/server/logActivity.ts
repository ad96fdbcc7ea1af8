import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { z } from "zod";
import { DIRECTIONS } from "@/core/contact/contact";
import { formatDay, parseDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { activities, contacts, dealContacts } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";

export const activitySchema = z
	.object({
		kind: z.string().min(1).max(60),
		direction: z.enum(DIRECTIONS),
		subject: z.string().trim().min(1, "Say in a few words what it was about.").max(500, "A subject has at most 500 letters."),
		body: z.string().trim().max(10_000, "An activity has at most 10 000 letters.").nullable().optional(),
		contactIds: z.array(z.string().max(200)).max(50).default([]),
		/** the day it took or takes place; a day to come makes it planned */
		day: z.iso.date("This isn't a day that exists.").optional(),
	})
	.meta({ id: "NewActivity" });

/** Logs what was said or done with the buyer, or what is planned: on a day to come, or today when it is still to happen. */
export async function logActivity(context: Context, dealId: string, input: z.input<typeof activitySchema>): Promise<{ id: string; planned: boolean }> {
	demand(context.actor, "writeNotes");
	const wish = activitySchema.parse(input);
	const { organisation, actor, now } = context;
	const { name } = reachDeal(context, dealId);
	if (!organisation.activityKinds.includes(wish.kind))
		throw new Fault(422, "No such kind", `There is no activity of the kind ${wish.kind}; there are ${organisation.activityKinds.join(", ")}.`);
	const day = parseDay(wish.day ?? formatDay(now.day)) ?? now.day;
	const planned = day > now.day;
	const { zone } = organisation.company.rules;
	const at = new Date(day === now.day ? now.instant : zone.instantAt(day, 12 * 3_600_000));
	const id = `activity-${randomUUID()}`;
	const { db } = connection();
	const known = await db
		.select({ id: contacts.id })
		.from(dealContacts)
		.innerJoin(contacts, eq(contacts.id, dealContacts.contactId))
		.where(eq(dealContacts.dealId, dealId));
	const strange = wish.contactIds.filter((contact) => !known.some((k) => k.id === contact));
	if (strange.length) throw notFound("contact", strange[0] as string);
	await db.transaction(async (tx) => {
		await tx.insert(activities).values({
			id,
			dealId,
			accountId: name.accountId,
			contactIds: wish.contactIds,
			kind: wish.kind,
			direction: wish.direction,
			state: planned ? "planned" : "done",
			at,
			byId: actor.person.id,
			subject: wish.subject,
			body: wish.body || null,
		});
		await record(tx, context, "activity logged", dealId, { activity: id });
		await touch(tx, [dealId]);
	});
	return { id, planned };
}

/** Takes an activity back that the person has logged, or says that a planned one took place. */
export async function settleActivity(context: Context, id: string, what: "back" | "done"): Promise<void> {
	demand(context.actor, "writeNotes");
	const { now, organisation } = context;
	await connection().db.transaction(async (tx) => {
		const [activity] = await tx.select().from(activities).where(eq(activities.id, id)).for("update");
		if (!activity?.dealId) throw notFound("activity", id);
		reachDeal(context, activity.dealId);
		if (what === "back") {
			if (activity.byId !== context.actor.person.id || !id.startsWith("activity-")) {
				throw new Fault(403, "Not allowed", "Only what you have logged here yourself can be taken back.");
			}
			await tx.delete(activities).where(eq(activities.id, id));
		} else {
			if (activity.state !== "planned") throw new Fault(409, "Already settled", "This activity is done already.");
			const stillAhead = organisation.company.rules.zone.dayOf(activity.at.getTime()) >= now.day;
			await tx
				.update(activities)
				.set({ state: "done", ...(stillAhead ? { at: new Date(now.instant) } : {}) })
				.where(eq(activities.id, id));
		}
		await record(tx, context, what === "back" ? "activity taken back" : "activity done", activity.dealId, { activity: id, subject: activity.subject });
		await touch(tx, [activity.dealId]);
	});
}
