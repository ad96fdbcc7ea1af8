import { and, eq, exists, or, sql } from "drizzle-orm";
import type { Around } from "@/core/contact/intake";
import { worksOn } from "@/core/people/person";
import type { Sql } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { activities, answersIn, contacts, dealContacts, type intakes } from "@/data/schema";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { reachAccount } from "@/platform/reachAccount";
import { reachDeal } from "@/platform/reachDeal";

export type Intake = typeof intakes.$inferSelect;

/** Where an intake is for: its deal and its account, for those who reach it. @throws Fault 404 */
export function placeOf(
	context: Context,
	{ dealId, accountId }: Pick<Intake, "dealId" | "accountId">,
): { readonly dealId: string | null; readonly accountId: string | null } {
	if (!dealId) return { dealId: null, accountId: reachAccount(context, accountId ?? "").id };
	return { dealId, accountId: reachDeal(context, dealId).attributes.accountId };
}

/** Contacts of an account, and those on a deal. */
export async function contactsAt(db: Sql, { dealId, accountId }: { readonly dealId: string | null; readonly accountId: string | null }) {
	const onDeal = db
		.select({ one: sql`1` })
		.from(dealContacts)
		.where(and(eq(dealContacts.dealId, dealId ?? ""), eq(dealContacts.contactId, contacts.id)));
	return db
		.select()
		.from(contacts)
		.where(or(accountId === null ? undefined : eq(contacts.accountId, accountId), dealId === null ? undefined : exists(onDeal)))
		.orderBy(contacts.id);
}

/** What is known where something is logged: people by their addresses, and which of some keys are logged already. */
export async function aroundOf(db: Sql, context: Context, intake: Intake, keys: readonly string[], adding: readonly string[]): Promise<Around> {
	const { organisation, now } = context;
	const place = placeOf(context, intake);
	const known = await contactsAt(db, place);
	const ours = new Map<string, number>();
	// One who has left keeps their address unless somebody who works here has it.
	organisation.people.forEach((person, index) => {
		const address = person.email?.toLowerCase();
		if (address && (!ours.has(address) || worksOn(person, now.day))) ours.set(address, index);
	});
	const theirs = new Map(known.flatMap(({ id, email }) => (email && !ours.has(email.toLowerCase()) ? [[email.toLowerCase(), id] as const] : [])));
	for (const address of adding) if (!ours.has(address) && !theirs.has(address)) theirs.set(address, `new ${address}`);
	const there = keys.length
		? [
				...(await db
					.select({ key: activities.messageId })
					.from(activities)
					.where(isOneOf(activities.messageId, [...keys]))),
				...(await db
					.select({ key: answersIn.messageId })
					.from(answersIn)
					.where(and(isOneOf(answersIn.messageId, [...keys]), eq(answersIn.fate, "logged")))),
			]
		: [];
	const { zone } = organisation.company.rules;
	return {
		ours,
		theirs,
		there: new Set(there.flatMap(({ key }) => key ?? [])),
		now: now.instant,
		tonight: zone.instantAt(now.day + 1, 0),
		archive: intake.archive,
	};
}

/** An intake of somebody’s own. @throws Fault 404 for another’s, and for one that is forgotten */
export function ownIntake({ actor }: Context, found: Intake | undefined): Intake {
	if (found?.byId !== actor.person.id) throw new Fault(404, "Not found", "This file isn’t here any more. Hand it in again.");
	return found;
}
