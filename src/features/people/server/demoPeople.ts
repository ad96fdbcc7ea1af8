import { and, eq, inArray, isNotNull, notInArray, or } from "drizzle-orm";
import type { Sql } from "@/data/db";
import { audit, organisationSettings, people } from "@/data/schema";

/** Who belongs to the demo company: those who came with it, those whom they made, and those made by these. Empty where it isn't in. */
export async function demoPeople(db: Sql): Promise<ReadonlySet<string>> {
	const [settings] = await db.select({ demo: organisationSettings.demo }).from(organisationSettings);
	const found = new Set(settings?.demo?.people ?? []);
	for (let next = [...found]; next.length; ) {
		const made = await db
			.select({ id: audit.subject })
			.from(audit)
			.where(and(eq(audit.action, "person created"), inArray(audit.personId, next)));
		next = made.flatMap(({ id }) => (id === null || found.has(id) ? [] : [id]));
		for (const id of next) found.add(id);
	}
	return found;
}

/** Whether anybody who can sign in is of a company of one's own: the demo's people, whose password is printed, stay out beside them. */
export async function besideOwn(db: Sql, demo: ReadonlySet<string>): Promise<boolean> {
	if (!demo.size) return false;
	const [own] = await db
		.select({ id: people.id })
		.from(people)
		.where(and(or(isNotNull(people.passwordHash), isNotNull(people.subject)), notInArray(people.id, [...demo])))
		.limit(1);
	return own !== undefined;
}

/** Whether somebody of the demo company has to stay out, because people of one's own are here. */
export async function staysOut(db: Sql, personId: string): Promise<boolean> {
	const demo = await demoPeople(db);
	return demo.has(personId) && (await besideOwn(db, demo));
}
