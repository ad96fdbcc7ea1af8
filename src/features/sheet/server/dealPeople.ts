import { and, eq } from "drizzle-orm";
import { z } from "zod";
import type { OrganisationState } from "@/data/organisation/state";
import { contacts, dealContacts } from "@/data/schema";
import { command } from "@/platform/command";
import { Fault, notFound } from "@/platform/fault";
import { keepFormer } from "@/platform/former";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

const BUYING_ROLES = ["decision_maker", "champion", "influencer", "user", "blocker", "unknown"] as const;
const newContactSchema = z.object({
	name: z.string().trim().min(1, "Give the person a name.").max(200, "A name has at most 200 letters."),
	title: z.string().trim().max(200, "A title has at most 200 letters.").nullable(),
	role: z.enum(BUYING_ROLES),
});

/** Puts somebody of the buyer's on a deal: a contact of its account, or one that is new to us. */
export const addPerson = command({
	name: "sheet.addPerson",
	right: "editDeals",
	input: z.object({ dealId: idSchema, who: z.union([z.object({ contactId: idSchema }).strict(), newContactSchema]) }),
	async run({ context, input: { dealId, who }, tx }) {
		const { organisation } = context;
		const { attributes } = reachDeal(context, dealId);
		const id = "contactId" in who ? who.contactId : newId("contact");
		if ("contactId" in who) {
			const [known] = await tx.select().from(contacts).where(eq(contacts.id, id));
			if (!known || known.accountId !== attributes.accountId) throw notFound("contact", id);
		} else await tx.insert(contacts).values({ id, accountId: attributes.accountId, name: who.name, title: who.title || null, buyingRole: who.role });
		const added = await tx.insert(dealContacts).values({ dealId, contactId: id }).onConflictDoNothing().returning();
		if (added.length) await keepFormer(tx, context, [{ dealId, contactId: id, field: "on_deal", before: "no" }]);
		return {
			result: { id },
			touched: organisation.company.rules.absent?.size ? { deals: touchedBy(organisation, dealId), parts: ["settings"] } : touchedBy(organisation, dealId),
			audit: { action: "person added to the deal", subject: dealId, detail: { contact: id } },
		};
	},
});

/** Takes somebody off a deal; the contact stays with the account. */
export const removePerson = command({
	name: "sheet.removePerson",
	right: "editDeals",
	input: z.object({ dealId: idSchema, contactId: idSchema }),
	async run({ context, input: { dealId, contactId }, tx }) {
		reachDeal(context, dealId);
		const gone = await tx
			.delete(dealContacts)
			.where(and(eq(dealContacts.dealId, dealId), eq(dealContacts.contactId, contactId)))
			.returning();
		if (!gone.length) throw notFound("contact on this deal", contactId);
		await keepFormer(tx, context, [{ dealId, contactId, field: "on_deal", before: "yes" }]);
		return { result: {}, touched: [dealId], audit: { action: "person taken off the deal", subject: dealId, detail: { contact: contactId } } };
	},
});

/** Says what part somebody plays in the buying; it holds on every deal they are on. */
export const setRole = command({
	name: "sheet.setRole",
	right: "editDeals",
	input: z.object({ dealId: idSchema, contactId: idSchema, role: z.enum(BUYING_ROLES) }),
	async run({ context, input: { dealId, contactId, role }, tx }) {
		reachDeal(context, dealId);
		const on = await tx.select().from(dealContacts).where(eq(dealContacts.contactId, contactId));
		if (!on.some((row) => row.dealId === dealId)) throw notFound("contact on this deal", contactId);
		const [before] = await tx.select({ role: contacts.buyingRole }).from(contacts).where(eq(contacts.id, contactId)).for("update");
		if (!before) throw new Fault(409, "Gone", "This contact isn't there any more.");
		await tx.update(contacts).set({ buyingRole: role }).where(eq(contacts.id, contactId));
		await keepFormer(tx, context, [{ contactId, field: "role", before: before.role }]);
		return {
			result: {},
			touched: on.map((row) => row.dealId),
			audit: { action: "buying role changed", subject: dealId, detail: { contact: contactId, before: before.role ?? "unknown", after: role } },
		};
	},
});

/** The deals on whose sheets a new contact can be chosen: all of the account. */
function touchedBy({ deals, dealIndex }: OrganisationState, dealId: string): string[] {
	const account = deals[dealIndex.get(dealId) ?? -1]?.accountId;
	return account ? deals.flatMap((deal) => (deal.accountId === account ? deal.id : [])) : [dealId];
}
