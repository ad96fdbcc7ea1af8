import { and, eq, exists, or, sql } from "drizzle-orm";
import type { Direction } from "@/core/contact/activity";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { activities, answersIn, contacts, dealContacts, outbox } from "@/data/schema";
import { addressedTo, type ReadMail } from "@/formats/mail/readMail";
import { touchedByActivity } from "@/platform/activities";
import { type Context, contextFor } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { newId } from "@/platform/ids";
import { mailOf } from "@/platform/mailRead";
import { reachDeal } from "@/platform/reachDeal";
import { may } from "@/platform/rights";
import { systemWrite } from "@/platform/write";
import { answeredMail } from "./replyAddress";

/** A mail with all it carries may be so large; what is attached isn't kept. */
export const MOST_BYTES = 10 * 1024 * 1024;
/** ms; what takes longer to read was written to take long */
const MOST_TIME = 30_000;

export interface Taken {
	readonly fate: "logged" | "seen before" | "refused";
	readonly why: string;
}
type Mail = typeof outbox.$inferSelect;

/**
 * Logs an answer to one of our mails as an activity of the mail's deal, once. It counts only at the address that the mail
 * gave for it. What the person writes whom the mail was for is internal (direction `none`): it is no word of the
 * customer's. What a contact of the deal or its account writes, found by address, is inbound (`in`).
 *
 * It is checked as that person's own write would be, when it comes: they work here, may log activities, and reach the deal.
 * What is refused is refused for good and answered as such, so that a mail server doesn't send it again and again.
 *
 * @param raw the whole message (RFC 5322)
 * @throws Fault 413 for one that is too large, 422 for one that can't be read, 503 for one that took too long
 */
export async function takeAnswer(raw: Buffer): Promise<Taken> {
	if (raw.length > MOST_BYTES)
		throw new Fault(413, "Too large", `A mail can have up to ${MOST_BYTES / 1024 / 1024} MB; this one has ${Math.ceil(raw.length / 1024 / 1024)}.`);
	const id =
		addressedTo(raw)
			.map(answeredMail)
			.find((found) => found !== null) ?? null;
	if (!id) return { fate: "refused", why: "it isn’t an answer to one of our mails" };
	const mail = await mailOf(raw, MOST_TIME);
	if (!mail.messageId) return { fate: "refused", why: "it has no Message-ID, so duplicates couldn’t be detected" };
	const [of] = await connection().db.select().from(outbox).where(eq(outbox.id, id));
	const person = of?.personId ? await contextFor(of.personId) : null;
	const found = await standingOf(mail, of, person);
	return systemWrite<Taken>(async (tx) => {
		const why = typeof found === "string" ? found : null;
		const at = new Date(person?.now.instant ?? Date.now());
		const [fresh] = await tx
			.insert(answersIn)
			.values({ messageId: mail.messageId, outboxId: id, at, fate: why ?? "logged" })
			.onConflictDoNothing()
			.returning();
		if (!fresh) return { result: { fate: "seen before", why: "it was already received" }, touched: "nothing", audit: [] };
		if (typeof found === "string" || !of?.dealId || !person) return { result: { fate: "refused", why: why ?? "" }, touched: "nothing", audit: [] };
		const { organisation } = person;
		const activity = newId("activity");
		await tx.insert(activities).values({
			id: activity,
			dealId: of.dealId,
			accountId: organisation.deals[organisation.dealIndex.get(of.dealId) as number]?.accountId ?? null,
			contactIds: found.contactIds,
			kind: organisation.activityKinds.find((kind) => /mail/i.test(kind)) ?? organisation.activityKinds[0] ?? "email",
			direction: found.direction,
			state: "done",
			at,
			recordedAt: at,
			byId: of.personId,
			subject: mail.subject || "Answer",
			body: mail.text || null,
		});
		return {
			result: { fate: "logged", why: "" },
			touched: touchedByActivity(person, of.dealId),
			audit: { action: "answer logged", subject: of.dealId, detail: { mail: id, activity, direction: found.direction, from: mail.from } },
		};
	}, of?.personId ?? null);
}

/** Whose word an answer is, or why it isn't taken. */
async function standingOf(
	mail: ReadMail,
	of: Mail | undefined,
	person: Context | null,
): Promise<{ readonly direction: Direction; readonly contactIds: string[] } | string> {
	if (!of) return "the mail it answers is no longer stored";
	if (mail.automatic) return "it was sent automatically";
	if (of.dealId === null) return "the mail wasn’t about a deal";
	if (!person || !worksOn(person.actor.person, person.now.day)) return "the person the mail was for is no longer with the company";
	if (!may(person.actor, "writeNotes")) return `${person.actor.person.name} may no longer log activities`;
	if (!person.organisation.dealIndex.has(of.dealId)) return "its deal was deleted";
	try {
		reachDeal(person, of.dealId);
	} catch {
		return `${person.actor.person.name} no longer has this deal`;
	}
	if (mail.from === of.address.toLowerCase()) return { direction: "none", contactIds: [] };
	const contactIds = await contactsBy(mail.from, of.dealId, person);
	return contactIds.length ? { direction: "in", contactIds } : `it comes from ${mail.from}, and the mail was for ${of.address}`;
}

/** Contacts of a deal or its account who have an address. One of ours has none of theirs, whatever a contact's entry says. */
async function contactsBy(address: string, dealId: string, { organisation }: Context): Promise<string[]> {
	if (organisation.people.some(({ email }) => email?.toLowerCase() === address)) return [];
	const { db } = connection();
	const accountId = organisation.deals[organisation.dealIndex.get(dealId) as number]?.accountId ?? null;
	const onDeal = db
		.select({ one: sql`1` })
		.from(dealContacts)
		.where(and(eq(dealContacts.dealId, dealId), eq(dealContacts.contactId, contacts.id)));
	const rows = await db
		.select({ id: contacts.id })
		.from(contacts)
		.where(and(sql`lower(${contacts.email}) = ${address}`, or(accountId === null ? undefined : eq(contacts.accountId, accountId), exists(onDeal))))
		.orderBy(contacts.id)
		.limit(1);
	return rows.map(({ id }) => id);
}
