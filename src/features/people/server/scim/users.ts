import { and, eq, isNull, ne, sql } from "drizzle-orm";
import { z } from "zod";
import { groupBy } from "@/core/groupBy";
import { type Day, formatDay } from "@/core/time/day";
import type { Sql, Tx } from "@/data/db";
import { directoryGroups, directoryMembers, directoryPeople, people } from "@/data/schema";
import { newId } from "@/platform/ids";
import type { AuditEntry } from "@/platform/write";
import { endWays } from "../endWays";
import { demandOps } from "../managePeople";
import { type Resource, resource, ScimFault } from "./answer";

const text = z.string().trim().max(400);
const addresses = z.array(z.object({ value: text, primary: z.boolean().optional(), type: text.optional() }).loose()).optional();
/** What is taken of a user that the directory sends; all else it may send is left aside (RFC 7643, 4.1). */
export const userSchema = z
	.object({
		userName: text.min(1, "A user needs a userName."),
		externalId: text.nullish(),
		displayName: text.nullish(),
		name: z.object({ formatted: text.nullish(), givenName: text.nullish(), familyName: text.nullish() }).loose().nullish(),
		emails: addresses,
		// Some directories send it as a text.
		active: z.union([z.boolean(), z.stringbool()]).default(true),
	})
	.loose();
export type UserSent = z.output<typeof userSchema>;

type Row = typeof people.$inferSelect & {
	readonly directory: typeof directoryPeople.$inferSelect | null;
	readonly groups: readonly { id: string; name: string }[];
};

/** Everybody whom the directory is told of: all people, but those whom it took out. */
export async function usersIn(db: Sql, base: string, today: Day, only?: string): Promise<Resource[]> {
	const [found, members] = await Promise.all([
		db
			.select({ person: people, directory: directoryPeople })
			.from(people)
			.leftJoin(directoryPeople, eq(directoryPeople.personId, people.id))
			.where(only === undefined ? undefined : eq(people.id, only))
			.orderBy(people.id),
		db
			.select({ personId: directoryMembers.personId, id: directoryGroups.id, name: directoryGroups.displayName })
			.from(directoryMembers)
			.innerJoin(directoryGroups, eq(directoryGroups.id, directoryMembers.groupId))
			.orderBy(directoryGroups.displayName),
	]);
	const groups = groupBy(members, ({ personId }) => personId);
	return found
		.filter(({ directory }) => !directory?.goneAt)
		.map(({ person, directory }) => userOf({ ...person, directory, groups: groups.get(person.id) ?? [] }, base, today));
}

function userOf({ id, name, email, activeTo, directory, groups }: Row, base: string, today: Day): Resource {
	const { givenName, familyName, externalId } = directory ?? {};
	return resource("User", base, {
		id,
		...(externalId ? { externalId } : {}),
		userName: directory?.userName ?? email ?? id,
		name: { formatted: name, ...(givenName ? { givenName } : {}), ...(familyName ? { familyName } : {}) },
		displayName: name,
		...(email ? { emails: [{ value: email, type: "work", primary: true }] } : {}),
		active: !hasLeft(activeTo, today),
		groups: groups.map(({ id: value, name: display }) => ({ value, display, $ref: `${base}/Groups/${value}`, type: "direct" })),
	});
}

const nameOf = ({ displayName, name, userName }: UserSent): string =>
	(displayName || name?.formatted || [name?.givenName, name?.familyName].filter(Boolean).join(" ") || userName).slice(0, 200);

function emailOf({ emails = [], userName }: UserSent): string | null {
	const found = (emails.find(({ primary }) => primary) ?? emails[0])?.value ?? userName;
	const read = z.email().max(320).safeParse(found);
	return read.success ? read.data : null;
}

/** Makes a user, or writes one whole as they were sent. Gives their id, and what stands in the audit. */
export async function writeUser(tx: Tx, sent: UserSent, id: string | null, today: Day): Promise<{ id: string; audit: AuditEntry[] }> {
	const [name, email] = [nameOf(sent), emailOf(sent)];
	await demandFreeName(tx, sent.userName, email, id);
	const [before] = id === null ? [] : await tx.select().from(people).where(eq(people.id, id)).for("update");
	const key = id ?? newId();
	const left = before ? hasLeft(before.activeTo, today) : false;
	// Who isn’t active worked here until yesterday; who is again has no last day.
	const activeTo = left !== sent.active ? (before?.activeTo ?? null) : sent.active ? null : formatDay(today - 1);
	const wish = { name, email, activeTo };
	if (before) await tx.update(people).set(wish).where(eq(people.id, key));
	// Without a group that gives a role they see nothing yet.
	else await tx.insert(people).values({ id: key, ...wish, role: "viewer", team: null });
	if (before?.role === "ops" && !left && !sent.active) await demandOps(tx, formatDay(today));
	const directory = {
		userName: sent.userName,
		externalId: sent.externalId ?? null,
		givenName: sent.name?.givenName ?? null,
		familyName: sent.name?.familyName ?? null,
		goneAt: null,
	};
	await tx
		.insert(directoryPeople)
		.values({ personId: key, ...directory })
		.onConflictDoUpdate({ target: directoryPeople.personId, set: directory });
	// Ways in of who has left end, and don’t open again for who returns.
	const ended = before && left === sent.active ? await endWays(tx, [key]) : null;
	const was = before && { name: before.name, email: before.email, activeTo: before.activeTo };
	if (was && JSON.stringify(was) === JSON.stringify(wish)) return { id: key, audit: [] };
	const detail = { ...(was ? { before: was } : {}), after: wish, by: "directory", ...(ended ? { ended } : {}) };
	return { id: key, audit: [{ action: before ? "person changed" : "person created", subject: key, detail }] };
}

/** Whether somebody’s last day has passed. Who has yet to begin is there already. */
const hasLeft = (activeTo: string | null, today: Day): boolean => activeTo !== null && activeTo < formatDay(today);

async function demandFreeName(tx: Tx, userName: string, email: string | null, id: string | null): Promise<void> {
	const other = id === null ? [] : [ne(people.id, id)];
	const [named] = await tx
		.select({ id: directoryPeople.personId })
		.from(directoryPeople)
		.where(
			and(
				eq(sql`lower(${directoryPeople.userName})`, userName.toLowerCase()),
				isNull(directoryPeople.goneAt),
				...(id ? [ne(directoryPeople.personId, id)] : []),
			),
		);
	if (named) throw new ScimFault(409, "uniqueness", `There is a user ${userName} already.`);
	if (!email) return;
	const [owner] = await tx
		.select({ id: people.id })
		.from(people)
		.where(and(eq(sql`lower(${people.email})`, email.toLowerCase()), ...other));
	if (owner) throw new ScimFault(409, "uniqueness", `${email} is the address of another user, ${owner.id}.`);
}

/** Takes somebody out of the directory: they have left, and it is told of them no more; what they did here stays. */
export async function takeOutUser(tx: Tx, id: string, today: Day): Promise<AuditEntry[]> {
	const [before] = await tx.select().from(people).where(eq(people.id, id)).for("update");
	if (!before) throw new ScimFault(404, null, `There is no user ${id}.`);
	const left = hasLeft(before.activeTo, today);
	const activeTo = left ? before.activeTo : formatDay(today - 1);
	await tx.update(people).set({ activeTo }).where(eq(people.id, id));
	if (before.role === "ops" && !left) await demandOps(tx, formatDay(today));
	const gone = { goneAt: new Date(), externalId: null };
	await tx
		.insert(directoryPeople)
		.values({ personId: id, userName: before.email ?? id, ...gone })
		.onConflictDoUpdate({ target: directoryPeople.personId, set: gone });
	await tx.delete(directoryMembers).where(eq(directoryMembers.personId, id));
	const ended = await endWays(tx, [id]);
	return [{ action: "person changed", subject: id, detail: { before: { activeTo: before.activeTo }, after: { activeTo }, by: "directory", ended } }];
}
