import { and, desc, eq, gte, inArray, isNotNull, isNull, or } from "drizzle-orm";
import type { FormerField } from "@/core/formerFields";
import type { Day } from "@/core/time/day";
import { connection } from "@/data/db";
import type { OrganisationState } from "@/data/organisation/state";
import { isOneOf } from "@/data/queries/isOneOf";
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

/** What of a contact is kept as it was before each change, by how that is called there. */
export const CONTACT_HISTORY = [
	{ key: "accountId", field: "account" },
	{ key: "name", field: "name" },
	{ key: "title", field: "title" },
	{ key: "email", field: "email" },
	{ key: "buyingRole", field: "role" },
	{ key: "reportsToId", field: "reports_to" },
] as const satisfies readonly { readonly key: keyof Stored; readonly field: FormerField }[];
type Stored = typeof contacts.$inferSelect;

/** The people of an account by name, as they were on a day: those who have gone elsewhere since too. */
export async function contactsOf({ company }: Pick<OrganisationState, "company">, account: string, day: Day): Promise<AccountContact[]> {
	const { db } = connection();
	const after = gte(formerFacts.at, new Date(company.rules.zone.instantAt(day + 1, 0)));
	const ofContact = and(isNull(formerFacts.dealId), isNotNull(formerFacts.contactId), after);
	const gone = db
		.select({ id: formerFacts.contactId })
		.from(formerFacts)
		.where(and(ofContact, eq(formerFacts.field, "account"), eq(formerFacts.before, account)));
	const rows = await db
		.select()
		.from(contacts)
		.where(or(eq(contacts.accountId, account), inArray(contacts.id, gone)));
	const changes = await db
		.select()
		.from(formerFacts)
		.where(
			and(
				ofContact,
				isOneOf(
					formerFacts.contactId,
					rows.map(({ id }) => id),
				),
			),
		)
		.orderBy(desc(formerFacts.at), desc(formerFacts.id));
	const then = new Map(rows.map((row) => [row.id, { ...row, made: true }]));
	// One change after another is taken back, the newest first: what is left is as it was on the day.
	for (const { contactId, field, before } of changes) {
		const row = then.get(contactId ?? "");
		const known = CONTACT_HISTORY.find((one) => one.field === field);
		if (row && field === "made") row.made = false;
		if (row && known) Object.assign(row, { [known.key]: before });
	}
	return [...then.values()]
		.filter((row) => row.made && row.accountId === account)
		.map(({ id, name, title, email, buyingRole, reportsToId, version: versionId }) => ({ id, name, title, email, buyingRole, reportsToId, versionId }))
		.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : a.id < b.id ? -1 : 1));
}
