import { eq } from "drizzle-orm";
import { z } from "zod";
import { DIRECTIONS } from "@/core/contact/activity";
import { formatDay, parseDay } from "@/core/time/day";
import type { Tx } from "@/data/db";
import { activities, contacts, dealContacts } from "@/data/schema";
import type { Context } from "./context";
import { Fault, notFound } from "./fault";
import { newId } from "./ids";
import { dayInput, idSchema } from "./input";
import { reachDeal } from "./reachDeal";

/** What is said of an activity that is logged. */
export const activityFields = {
	kind: z.string().min(1).max(60),
	direction: z.enum(DIRECTIONS),
	subject: z.string().trim().min(1, "Say in a few words what it was about.").max(500, "A subject has at most 500 letters."),
	body: z.string().trim().max(10_000, "An activity has at most 10 000 letters.").nullable().optional(),
	contactIds: z.array(idSchema).max(50).default([]),
	/** the day it took or takes place; a day to come makes it planned */
	day: dayInput.optional(),
};
export type NewActivity = z.output<z.ZodObject<typeof activityFields>>;

/**
 * Writes an activity of a deal that the actor reaches. Gives its id, and whether it is still to come.
 *
 * @throws Fault 404 for a deal out of reach or a contact who isn't on it, 422 for a kind there is none of
 */
export async function writeActivity(
	tx: Tx,
	context: Context,
	{ dealId, ...given }: NewActivity & { readonly dealId: string },
): Promise<{ id: string; planned: boolean }> {
	const { attributes } = reachDeal(context, dealId);
	const known = await tx
		.select({ id: contacts.id })
		.from(dealContacts)
		.innerJoin(contacts, eq(contacts.id, dealContacts.contactId))
		.where(eq(dealContacts.dealId, dealId));
	return insertActivity(tx, context, { dealId, accountId: attributes.accountId }, given, known);
}

/**
 * Writes an activity at a place that the caller has checked is reached; `known` are those who may have taken part.
 *
 * @throws Fault 404 for a contact who isn't known there, 422 for a kind there is none of
 */
export async function insertActivity(
	tx: Tx,
	{ organisation, actor, now }: Context,
	place: { readonly dealId: string | null; readonly accountId: string | null },
	{ kind, direction, subject, contactIds, body, day: given }: NewActivity,
	known: readonly { readonly id: string }[],
): Promise<{ id: string; planned: boolean }> {
	if (!organisation.activityKinds.includes(kind))
		throw new Fault(422, "No such kind", `There is no activity of the kind ${kind}; there are ${organisation.activityKinds.join(", ")}.`);
	const strange = contactIds.find((contact) => !known.some((one) => one.id === contact));
	if (strange !== undefined) throw notFound("contact", strange);
	const day = parseDay(given ?? formatDay(now.day)) ?? now.day;
	const planned = day > now.day;
	const { zone } = organisation.company.rules;
	const id = newId("activity");
	await tx.insert(activities).values({
		...place,
		id,
		contactIds,
		kind,
		direction,
		state: planned ? "planned" : "done",
		// Of a day before or to come the hour is that of the writing: what is written one after another stays so.
		at: new Date(zone.instantAt(day, now.instant - zone.instantAt(now.day, 0))),
		recordedAt: new Date(now.instant),
		byId: actor.person.id,
		subject,
		body: body || null,
	});
	return { id, planned };
}

/** What is read again after an activity of a deal: the first one at all may switch rules on. */
export const touchedByActivity = ({ organisation }: Context, dealId: string) =>
	organisation.company.rules.absent?.size ? { deals: [dealId], parts: ["settings" as const] } : [dealId];
