import { and, asc, desc, eq, inArray, isNull, or, sql } from "drizzle-orm";
import { connection, type Db } from "../db";
import { activities, answers, closePlanSteps, contacts, dealContacts, dealLines, dealVersions, formerFacts, notes, orders, quotes, tasks } from "../schema";

/** What is written about a deal beside its figures, and what its account knows, straight from the database, newest first. */
export async function readRecords(dealId: string, accountId: string | null) {
	const { db } = connection();
	const [own, people, account, former] = await Promise.all([readOwn(db, dealId), readPeople(db, dealId), readAccount(db, accountId), readFormer(db, dealId)]);
	return { ...own, ...people, ...account, former };
}

async function readOwn(db: Db, dealId: string) {
	const [versions, activityRows, answerRows, taskRows, quoteRows, lines, noteRows, steps] = await Promise.all([
		db.select().from(dealVersions).where(eq(dealVersions.dealId, dealId)).orderBy(desc(dealVersions.validFrom)),
		db.select().from(activities).where(eq(activities.dealId, dealId)).orderBy(desc(activities.at), desc(activities.id)),
		db.select().from(answers).where(eq(answers.dealId, dealId)).orderBy(desc(answers.at)),
		db.select().from(tasks).where(eq(tasks.dealId, dealId)).orderBy(asc(tasks.dueOn), asc(tasks.id)),
		db.select().from(quotes).where(eq(quotes.dealId, dealId)).orderBy(desc(quotes.sentOn), desc(quotes.id)),
		db.select().from(dealLines).where(eq(dealLines.dealId, dealId)).orderBy(asc(dealLines.ordinal)),
		db.select().from(notes).where(eq(notes.dealId, dealId)).orderBy(desc(notes.at)),
		db.select().from(closePlanSteps).where(eq(closePlanSteps.dealId, dealId)).orderBy(asc(closePlanSteps.dueOn), asc(closePlanSteps.id)),
	]);
	return { versions, activities: activityRows, answers: answerRows, tasks: taskRows, quotes: quoteRows, lines, notes: noteRows, steps };
}

/** The contacts of a deal; and by id the names of all who took part in one of its activities. */
async function readPeople(db: Db, dealId: string) {
	const [contactRows, names] = await Promise.all([
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
		db
			.select({ id: contacts.id, name: contacts.name })
			.from(contacts)
			.where(
				// As a list: what is joined instead is looked for among all contacts.
				sql`${contacts.id} = any(array(${db
					.select({ id: sql`unnest(${activities.contactIds})` })
					.from(activities)
					.where(eq(activities.dealId, dealId))}))`,
			),
	]);
	return { contacts: contactRows, contactNames: new Map(names.map((row) => [row.id, row.name])) };
}

/** Everyone of a deal’s account, and what it has ordered. */
async function readAccount(db: Db, accountId: string | null) {
	const [colleagues, orderRows] = await Promise.all([
		accountId
			? db
					.select({ id: contacts.id, name: contacts.name, title: contacts.title })
					.from(contacts)
					.where(eq(contacts.accountId, accountId))
					.orderBy(asc(contacts.name), asc(contacts.id))
			: [],
		accountId ? db.select().from(orders).where(eq(orders.accountId, accountId)).orderBy(desc(orders.date), asc(orders.ordinal)) : [],
	]);
	return { colleagues, orders: orderRows };
}

/** What was so before it was changed, the newest change first. */
function readFormer(db: Db, dealId: string) {
	const ownContacts = db.select({ id: dealContacts.contactId }).from(dealContacts).where(eq(dealContacts.dealId, dealId));
	return db
		.select()
		.from(formerFacts)
		.where(or(eq(formerFacts.dealId, dealId), and(eq(formerFacts.field, "role"), isNull(formerFacts.dealId), inArray(formerFacts.contactId, ownContacts))))
		.orderBy(desc(formerFacts.at), desc(formerFacts.id));
}
export type DealRecords = Awaited<ReturnType<typeof readRecords>>;
