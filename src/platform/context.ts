import type { Sql } from "@/data/db";
import { connection } from "@/data/db";
import { currentMemory } from "@/data/organisation/follow";
import type { Memory } from "@/data/organisation/state";
import { audit } from "@/data/schema";
import { clock, type Now } from "./clock";
import type { Actor } from "./rights";

/** What every use case starts from: who acts, what is known, and what time it is. */
export interface Context {
	readonly actor: Actor;
	readonly memory: Memory;
	readonly now: Now;
}

export async function contextFor(personId: string): Promise<Context | null> {
	const memory = await currentMemory(connection().db);
	const index = memory.personIndex.get(personId);
	const person = index === undefined ? undefined : memory.people[index];
	if (index === undefined || !person) return null;
	return { actor: { person, index }, memory, now: clock(memory) };
}

export async function record(db: Sql, context: Context, action: string, subject: string | null, detail: Record<string, unknown> = {}) {
	await db.insert(audit).values({ personId: context.actor.person.id, action, subject, detail });
}
