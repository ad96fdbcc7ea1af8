import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import type { OrganisationState } from "@/data/organisation/state";
import { clock, type Now } from "./clock";
import type { Actor } from "./rights";

/** What every use case starts from: who acts, what is known, and what time it is. */
export interface Context {
	readonly actor: Actor;
	readonly organisation: OrganisationState;
	readonly now: Now;
	/** names a write that must not be done twice, however often it is sent */
	readonly once?: string;
}

/** The context of a person; `revision` where it was read already, with what else was asked. */
export async function contextFor(personId: string, revision?: number): Promise<Context | null> {
	const organisation = await currentOrganisation(connection().db, revision);
	const index = organisation.personIndex.get(personId);
	const person = index === undefined ? undefined : organisation.people[index];
	if (index === undefined || !person) return null;
	return { actor: { person, index }, organisation, now: clock(organisation) };
}
