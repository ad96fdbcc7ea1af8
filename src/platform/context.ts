import type { Sql } from "@/data/db";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import type { OrganisationState } from "@/data/organisation/state";
import { audit } from "@/data/schema";
import { clock, type Now } from "./clock";
import type { Actor } from "./rights";

/** What every use case starts from: who acts, what is known, and what time it is. */
export interface Context {
	readonly actor: Actor;
	readonly organisation: OrganisationState;
	readonly now: Now;
}

export async function contextFor(personId: string): Promise<Context | null> {
	const organisation = await currentOrganisation(connection().db);
	const index = organisation.personIndex.get(personId);
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || !person) return null;
	return { actor: { person, index }, organisation, now: clock(organisation) };
}

export async function record(db: Sql, context: Context, action: string, subject: string | null, detail: Record<string, unknown> = {}) {
	await db.insert(audit).values({ personId: context.actor.person.id, action, subject, detail });
}
