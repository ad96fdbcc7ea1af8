import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { BUYING_ROLES } from "@/core/people/buyingRoles";
import type { Tx } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { contacts, dealContacts } from "@/data/schema";
import { command } from "@/platform/command";
import { recordPreviousValue } from "@/platform/factHistory";
import { notFound } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { idSchema } from "@/platform/input";
import { reachDeal } from "@/platform/reachDeal";

const newContactSchema = z.object({
	name: z.string().trim().min(1, "Enter a name.").max(200, "A name has at most 200 letters."),
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
		let name = "name" in who ? who.name : "";
		const id = "contactId" in who ? who.contactId : newId("contact");
		if ("contactId" in who) {
			const [known] = await tx.select().from(contacts).where(eq(contacts.id, id));
			if (!known || known.accountId !== attributes.accountId) throw notFound("contact", id);
			name = known.name;
		} else await tx.insert(contacts).values({ id, accountId: attributes.accountId, name: who.name, title: who.title || null, buyingRole: who.role });
		const added = await tx.insert(dealContacts).values({ dealId, contactId: id }).onConflictDoNothing().returning();
		if (added.length) await recordPreviousValue(tx, context, [{ dealId, contactId: id, field: "on_deal", before: "no" }]);
		return {
			result: { id },
			touched: organisation.company.rules.absent?.size ? { deals: touchedBy(organisation, dealId), parts: ["settings"] } : touchedBy(organisation, dealId),
			audit: { action: "person added to the deal", subject: dealId, detail: { name, part: "role" in who ? who.role : null } },
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
		const { name, role } = await onDeal(tx, dealId, contactId);
		await tx.delete(dealContacts).where(and(eq(dealContacts.dealId, dealId), eq(dealContacts.contactId, contactId)));
		// Read backwards: first they are on the deal again, then in their part.
		await recordPreviousValue(tx, context, [
			{ dealId, contactId, field: "role", before: role },
			{ dealId, contactId, field: "on_deal", before: "yes" },
		]);
		return { result: {}, touched: [dealId], audit: { action: "person removed from the deal", subject: dealId, detail: { name, part: role } } };
	},
});

/** Says what part somebody plays in the buying of one deal; on other deals they keep the part they have there. */
export const setRole = command({
	name: "sheet.setRole",
	right: "editDeals",
	input: z.object({ dealId: idSchema, contactId: idSchema, role: z.enum(BUYING_ROLES) }),
	async run({ context, input: { dealId, contactId, role }, tx }) {
		reachDeal(context, dealId);
		const { name, role: before } = await onDeal(tx, dealId, contactId);
		await tx
			.update(dealContacts)
			.set({ buyingRole: role })
			.where(and(eq(dealContacts.dealId, dealId), eq(dealContacts.contactId, contactId)));
		await recordPreviousValue(tx, context, [{ dealId, contactId, field: "role", before }]);
		return {
			result: {},
			touched: [dealId],
			audit: { action: "buying role changed", subject: dealId, detail: { before: before ?? "unknown", after: role, of: name } },
		};
	},
});

/** A contact of a deal and the part they have there, for a change of it. @throws Fault 404 where they aren't on it */
async function onDeal(tx: Tx, dealId: string, contactId: string): Promise<{ name: string; role: string | null }> {
	const [on] = await tx
		.select({ name: contacts.name, role: sql<string | null>`coalesce(${dealContacts.buyingRole}, ${contacts.buyingRole})` })
		.from(dealContacts)
		.innerJoin(contacts, eq(contacts.id, dealContacts.contactId))
		.where(and(eq(dealContacts.dealId, dealId), eq(dealContacts.contactId, contactId)))
		.for("update", { of: dealContacts });
	if (!on) throw notFound("contact on this deal", contactId);
	return on;
}

/** The deals on whose sheets a new contact can be chosen: all of the account. */
function touchedBy({ deals, dealIndex }: OrganisationState, dealId: string): string[] {
	const account = deals[dealIndex.get(dealId) ?? -1]?.accountId;
	return account ? deals.flatMap((deal) => (deal.accountId === account ? deal.id : [])) : [dealId];
}
