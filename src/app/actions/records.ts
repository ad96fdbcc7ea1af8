"use server";
import { z } from "zod";
import { addPerson, BUYING_ROLES, newContactSchema, removePerson, setRole } from "@/features/sheet/server/dealPeople";
import { answerQuote, quoteSchema, sendQuote } from "@/features/sheet/server/dealQuotes";
import { act, idSchema } from "./act";

const whoSchema = z.union([z.object({ contactId: idSchema }).strict(), newContactSchema]);

export async function addPersonAction(dealId: string, who: { contactId: string } | { name: string; title: string | null; role: string }) {
	return act(async (context) => addPerson(context, idSchema.parse(dealId), "contactId" in who ? whoSchema.parse(who) : newContactSchema.parse(who)));
}

export async function removePersonAction(dealId: string, contactId: string) {
	return act(async (context) => {
		await removePerson(context, idSchema.parse(dealId), idSchema.parse(contactId));
		return {};
	});
}

export async function setRoleAction(dealId: string, contactId: string, role: string) {
	return act(async (context) => {
		await setRole(context, idSchema.parse(dealId), idSchema.parse(contactId), z.enum(BUYING_ROLES).parse(role));
		return {};
	});
}

export async function sendQuoteAction(dealId: string, number: string | null, validUntil: string) {
	return act(async (context) => sendQuote(context, idSchema.parse(dealId), quoteSchema.parse({ number, validUntil })));
}

export async function answerQuoteAction(id: string, answer: string | null) {
	return act(async (context) => {
		await answerQuote(context, idSchema.parse(id), z.string().max(500, "An answer has at most 500 letters.").nullable().parse(answer));
		return {};
	});
}
