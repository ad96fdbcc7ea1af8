import { eq, sql } from "drizzle-orm";
import { z } from "zod";
import { groupBy } from "@/core/groupBy";
import { type Day, formatDay } from "@/core/time/day";
import type { Sql, Tx } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { directoryGroups, directoryMembers, directoryPeople, people, teams } from "@/data/schema";
import { newId } from "@/platform/ids";
import type { AuditEntry } from "@/platform/write";
import { lineFor } from "../../table/groups";
import { demandOps } from "../managePeople";
import { providerSet } from "../provider/settings";
import { type Resource, resource, ScimFault } from "./answer";

const text = z.string().trim().max(400);
/** A group as the directory sends it (RFC 7643, 4.2). */
export const groupSchema = z
	.object({
		displayName: text.min(1, "A group needs a displayName."),
		externalId: text.nullish(),
		members: z
			.array(z.object({ value: text }).loose())
			.max(20_000)
			.nullish(),
	})
	.loose();
export type GroupSent = z.output<typeof groupSchema>;

export async function groupsIn(db: Sql, base: string, only?: string): Promise<Resource[]> {
	const found = await db
		.select()
		.from(directoryGroups)
		.where(only === undefined ? undefined : eq(directoryGroups.id, only))
		.orderBy(directoryGroups.id);
	const members = await db
		.select({ groupId: directoryMembers.groupId, id: people.id, name: people.name })
		.from(directoryMembers)
		.innerJoin(people, eq(people.id, directoryMembers.personId))
		.where(only === undefined ? undefined : eq(directoryMembers.groupId, only))
		.orderBy(people.id);
	const of = groupBy(members, ({ groupId }) => groupId);
	return found.map(({ id, displayName, externalId }) =>
		resource("Group", base, {
			id,
			...(externalId ? { externalId } : {}),
			displayName,
			members: (of.get(id) ?? []).map((one) => ({ value: one.id, display: one.name, $ref: `${base}/Users/${one.id}`, type: "User" })),
		}),
	);
}

/** Makes a group, or writes one whole as it was sent; people who came into it or left it are what their groups say then. */
export async function writeGroup(tx: Tx, sent: GroupSent, id: string | null, today: Day): Promise<{ id: string; audit: AuditEntry[] }> {
	const key = id ?? newId();
	const [twin] = await tx
		.select({ id: directoryGroups.id })
		.from(directoryGroups)
		.where(eq(sql`lower(${directoryGroups.displayName})`, sent.displayName.toLowerCase()));
	if (twin && twin.id !== key) throw new ScimFault(409, "uniqueness", `There is a group ${sent.displayName} already.`);
	const row = { displayName: sent.displayName, externalId: sent.externalId ?? null };
	await tx
		.insert(directoryGroups)
		.values({ id: key, ...row })
		.onConflictDoUpdate({ target: directoryGroups.id, set: row });
	const before = (await tx.delete(directoryMembers).where(eq(directoryMembers.groupId, key)).returning({ id: directoryMembers.personId })).map((one) => one.id);
	const wanted = [...new Set((sent.members ?? []).map(({ value }) => value))];
	const here = new Set(
		(
			await tx
				.select({ id: people.id, gone: directoryPeople.goneAt })
				.from(people)
				.leftJoin(directoryPeople, eq(directoryPeople.personId, people.id))
				.where(isOneOf(people.id, wanted))
		).flatMap((one) => (one.gone ? [] : [one.id])),
	);
	const missing = wanted.find((one) => !here.has(one));
	if (missing !== undefined) throw new ScimFault(400, "invalidValue", `There is no user ${missing}, who is to be a member of ${sent.displayName}.`);
	if (wanted.length) await tx.insert(directoryMembers).values(wanted.map((personId) => ({ groupId: key, personId })));
	return { id: key, audit: await followGroups(tx, [...new Set([...before, ...wanted])], today) };
}

export async function takeOutGroup(tx: Tx, id: string, today: Day): Promise<AuditEntry[]> {
	const members = await tx.select({ id: directoryMembers.personId }).from(directoryMembers).where(eq(directoryMembers.groupId, id));
	const gone = await tx.delete(directoryGroups).where(eq(directoryGroups.id, id)).returning({ id: directoryGroups.id });
	if (!gone.length) throw new ScimFault(404, null, `There is no group ${id}.`);
	return followGroups(
		tx,
		members.map((one) => one.id),
		today,
	);
}

/** Gives people the role and team that their groups say; who has none that says anything sees nothing more. */
async function followGroups(tx: Tx, ids: readonly string[], today: Day): Promise<AuditEntry[]> {
	const lines = (await providerSet(tx))?.groups ?? [];
	if (!lines.length || !ids.length) return [];
	const known = new Set((await tx.select({ name: teams.name }).from(teams)).map(({ name }) => name));
	const named = await tx
		.select({ personId: directoryMembers.personId, name: directoryGroups.displayName })
		.from(directoryMembers)
		.innerJoin(directoryGroups, eq(directoryGroups.id, directoryMembers.groupId))
		.where(isOneOf(directoryMembers.personId, ids));
	const groups = groupBy(named, ({ personId }) => personId);
	const audit: AuditEntry[] = [];
	let lostOps = false;
	for (const person of await tx.select().from(people).where(isOneOf(people.id, ids))) {
		const line = lineFor(
			lines,
			(groups.get(person.id) ?? []).map(({ name }) => name),
		);
		const wish = { role: line?.role ?? "viewer", team: line?.team && known.has(line.team) ? line.team : null };
		if (wish.role === person.role && wish.team === person.team) continue;
		await tx.update(people).set(wish).where(eq(people.id, person.id));
		if (person.role === "ops" && wish.role !== "ops") lostOps = true;
		audit.push({ action: "person changed", subject: person.id, detail: { before: { role: person.role, team: person.team }, after: wish, by: "directory" } });
	}
	if (lostOps) await demandOps(tx, formatDay(today));
	return audit;
}
