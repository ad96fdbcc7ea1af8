import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { z } from "zod";
import { connection } from "@/data/db";
import { contacts, dealContacts } from "@/data/schema";
import { touch } from "@/data/store/touch";
import { type Context, record } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { reachDeal } from "@/platform/reachDeal";
import { demand } from "@/platform/rights";

export const BUYING_ROLES = ["decision_maker", "champion", "influencer", "user", "blocker", "unknown"] as const;
export const newContactSchema = z.object({
	name: z.string().trim().min(1, "Give the person a name.").max(200, "A name has at most 200 letters."),
	title: z.string().trim().max(200, "A title has at most 200 letters.").nullable(),
	role: z.enum(BUYING_ROLES),
});

/** Puts somebody of the buyer's on a deal: a contact of its account, or one that is new to us. */
export async function addPerson(context: Context, dealId: string, who: { contactId: string } | z.infer<typeof newContactSchema>): Promise<{ id: string }> {
	demand(context.actor, "editDeals");
	const { name } = reachDeal(context, dealId);
	return connection().db.transaction(async (tx) => {
		let id: string;
		if ("contactId" in who) {
			id = who.contactId;
			const [known] = await tx.select().from(contacts).where(eq(contacts.id, id));
			if (!known || known.accountId !== name.accountId) throw notFound("contact", id);
		} else {
			const given = newContactSchema.parse(who);
			id = `contact-${randomUUID()}`;
			await tx.insert(contacts).values({ id, accountId: name.accountId, name: given.name, title: given.title || null, buyingRole: given.role });
		}
		await tx.insert(dealContacts).values({ dealId, contactId: id }).onConflictDoNothing();
		await record(tx, context, "person added to the deal", dealId, { contact: id });
		await touch(tx, [dealId]);
		return { id };
	});
}

/** Takes somebody off a deal; the contact stays with the account. */
export async function removePerson(context: Context, dealId: string, contactId: string): Promise<void> {
	demand(context.actor, "editDeals");
	reachDeal(context, dealId);
	await connection().db.transaction(async (tx) => {
		const gone = await tx
			.delete(dealContacts)
			.where(and(eq(dealContacts.dealId, dealId), eq(dealContacts.contactId, contactId)))
			.returning();
		if (!gone.length) throw notFound("contact on this deal", contactId);
		await record(tx, context, "person taken off the deal", dealId, { contact: contactId });
		await touch(tx, [dealId]);
	});
}

/** Says what part somebody plays in the buying; it holds on every deal they are on. */
export async function setRole(context: Context, dealId: string, contactId: string, role: (typeof BUYING_ROLES)[number]): Promise<void> {
	demand(context.actor, "editDeals");
	reachDeal(context, dealId);
	await connection().db.transaction(async (tx) => {
		const on = await tx.select().from(dealContacts).where(eq(dealContacts.contactId, contactId));
		if (!on.some((row) => row.dealId === dealId)) throw notFound("contact on this deal", contactId);
		const [before] = await tx.select({ role: contacts.buyingRole }).from(contacts).where(eq(contacts.id, contactId)).for("update");
		if (!before) throw new Fault(409, "Gone", "This contact isn't there any more.");
		await tx.update(contacts).set({ buyingRole: role }).where(eq(contacts.id, contactId));
		await record(tx, context, "buying role changed", dealId, { contact: contactId, before: before.role ?? "unknown", after: role });
		await touch(
			tx,
			on.map((row) => row.dealId),
		);
	});
}
