import { and, asc, eq, isNull, sql } from "drizzle-orm";
import type { Day } from "@/core/time/day";
import { connection } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { contacts, formerFacts } from "@/data/schema";

/** Somebody of an account, as they were on a day. */
export interface AccountContact {
	readonly id: string;
	readonly name: string;
	readonly title: string | null;
	readonly email: string | null;
	readonly buyingRole: string | null;
	readonly reportsToId: string | null;
	readonly versionId: number;
}

/** The people of an account by name, with the part they played on a day. */
export async function contactsOf({ company }: Pick<OrganisationState, "company">, account: string, day: Day): Promise<AccountContact[]> {
	const after = new Date(company.rules.zone.instantAt(day + 1, 0)).toISOString();
	const { db } = connection();
	const { id, name, title, email, buyingRole, reportsToId, version: versionId } = contacts;
	const rows = await db
		.select({ id, name, title, email, buyingRole, reportsToId, versionId })
		.from(contacts)
		.where(eq(contacts.accountId, account))
		.orderBy(asc(name), asc(id));
	const former = await db
		.select({ contactId: formerFacts.contactId, before: formerFacts.before })
		.from(formerFacts)
		.innerJoin(contacts, eq(contacts.id, formerFacts.contactId))
		.where(and(eq(contacts.accountId, account), eq(formerFacts.field, "role"), isNull(formerFacts.dealId), sql`${formerFacts.at} >= ${after}`))
		.orderBy(asc(formerFacts.at), asc(formerFacts.id));
	// The first change after the day says what it was on it.
	const was = new Map<string, string | null>();
	for (const { contactId, before } of former) if (contactId && !was.has(contactId)) was.set(contactId, before);
	return rows.map((row) => (was.has(row.id) ? { ...row, buyingRole: was.get(row.id) ?? null } : row));
}
