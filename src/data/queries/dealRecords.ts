import { and, asc, desc, eq, inArray, isNull, or, sql } from "drizzle-orm";
import { connection } from "../db";
import { activities, answers, closePlanSteps, contacts, dealContacts, dealLines, dealVersions, formerFacts, notes, orders, quotes, tasks } from "../schema";

/** What is written about a deal beside its figures, and what its account knows, straight from the database, newest first. */
export async function readRecords(dealId: string, accountId: string | null) {
	const { db } = connection();
	const [
		versionRows,
		activityRows,
		answerRows,
		taskRows,
		contactRows,
		quoteRows,
		lineRows,
		noteRows,
		stepRows,
		colleagueRows,
		orderRows,
		nameRows,
		formerRows,
	] = await Promise.all([
		db.select().from(dealVersions).where(eq(dealVersions.dealId, dealId)).orderBy(desc(dealVersions.validFrom)),
		db.select().from(activities).where(eq(activities.dealId, dealId)).orderBy(desc(activities.at), desc(activities.id)),
		db.select().from(answers).where(eq(answers.dealId, dealId)).orderBy(desc(answers.at)),
		db.select().from(tasks).where(eq(tasks.dealId, dealId)).orderBy(asc(tasks.dueOn), asc(tasks.id)),
		db
			.select({
				id: contacts.id,
				name: contacts.name,
				title: contacts.title,
				email: contacts.email,
				buyingRole: sql<string | null>`coalesce(${dealContacts.buyingRole}, ${contacts.buyingRole})`,
				reportsToId: contacts.reportsToId,
			})
			.from(dealContacts)
			.innerJoin(contacts, eq(contacts.id, dealContacts.contactId))
			.where(eq(dealContacts.dealId, dealId))
			.orderBy(asc(contacts.name)),
		db.select().from(quotes).where(eq(quotes.dealId, dealId)).orderBy(desc(quotes.sentOn), desc(quotes.id)),
		db.select().from(dealLines).where(eq(dealLines.dealId, dealId)).orderBy(asc(dealLines.ordinal)),
		db.select().from(notes).where(eq(notes.dealId, dealId)).orderBy(desc(notes.at)),
		db.select().from(closePlanSteps).where(eq(closePlanSteps.dealId, dealId)).orderBy(asc(closePlanSteps.dueOn), asc(closePlanSteps.id)),
		accountId
			? db
					.select({ id: contacts.id, name: contacts.name, title: contacts.title })
					.from(contacts)
					.where(eq(contacts.accountId, accountId))
					.orderBy(asc(contacts.name), asc(contacts.id))
			: [],
		accountId ? db.select().from(orders).where(eq(orders.accountId, accountId)).orderBy(desc(orders.date), asc(orders.ordinal)) : [],
		db
			.select({ id: contacts.id, name: contacts.name })
			.from(contacts)
			.where(
				inArray(
					contacts.id,
					db
						.select({ id: sql`unnest(${activities.contactIds})` })
						.from(activities)
						.where(eq(activities.dealId, dealId)),
				),
			),
		db
			.select()
			.from(formerFacts)
			.where(
				or(
					eq(formerFacts.dealId, dealId),
					and(
						eq(formerFacts.field, "role"),
						isNull(formerFacts.dealId),
						inArray(formerFacts.contactId, db.select({ id: dealContacts.contactId }).from(dealContacts).where(eq(dealContacts.dealId, dealId))),
					),
				),
			)
			.orderBy(desc(formerFacts.at), desc(formerFacts.id)),
	]);
	return {
		versions: versionRows,
		activities: activityRows,
		answers: answerRows,
		tasks: taskRows,
		contacts: contactRows,
		quotes: quoteRows,
		lines: lineRows,
		notes: noteRows,
		steps: stepRows,
		/** everyone of its account */
		colleagues: colleagueRows,
		/** what its account has ordered */
		orders: orderRows,
		/** what was so before it was changed, the newest change first */
		former: formerRows,
		/** by id, of whoever took part in an activity */
		contactNames: new Map(nameRows.map((row) => [row.id, row.name])),
	};
}
export type DealRecords = Awaited<ReturnType<typeof readRecords>>;
