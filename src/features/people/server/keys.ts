import { randomBytes, randomUUID } from "node:crypto";
import { and, desc, eq, isNull } from "drizzle-orm";
import { z } from "zod";
import { connection } from "@/data/db";
import { apiKeys, people } from "@/data/schema";
import { type Context, record } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { demand } from "@/platform/rights";
import { tokenHash } from "./signIn";

export const keySchema = z.object({ name: z.string().trim().min(1, "Give the key a name, so that you know it again.").max(100) });

/** Makes a key that acts as the person; the token is shown once and kept only as a hash. */
export async function createKey(context: Context, input: z.infer<typeof keySchema>): Promise<{ id: string; token: string }> {
	demand(context.actor, "ownKeys");
	const made = await storeKey(context.actor.person.id, input.name);
	await record(connection().db, context, "key created", made.id, { name: input.name });
	return made;
}

export async function storeKey(personId: string, name: string): Promise<{ id: string; token: string }> {
	const token = `lamp_${randomBytes(30).toString("base64url")}`;
	const id = randomUUID();
	await connection()
		.db.insert(apiKeys)
		.values({ id, personId, name, tokenHash: tokenHash(token), hint: token.slice(0, 9) });
	return { id, token };
}

export async function listKeys(context: Context) {
	demand(context.actor, "ownKeys");
	const everyone = context.actor.person.role === "ops";
	const rows = await connection()
		.db.select({
			id: apiKeys.id,
			name: apiKeys.name,
			hint: apiKeys.hint,
			person: people.name,
			personId: apiKeys.personId,
			createdAt: apiKeys.createdAt,
			lastUsedAt: apiKeys.lastUsedAt,
		})
		.from(apiKeys)
		.innerJoin(people, eq(people.id, apiKeys.personId))
		.where(and(isNull(apiKeys.revokedAt), everyone ? undefined : eq(apiKeys.personId, context.actor.person.id)))
		.orderBy(desc(apiKeys.createdAt));
	return rows.map((row) => ({ ...row, createdAt: row.createdAt.toISOString(), lastUsedAt: row.lastUsedAt?.toISOString() ?? null }));
}

/** Ends a key: one's own, or anyone's for ops. */
export async function revokeKey(context: Context, id: string): Promise<void> {
	demand(context.actor, "ownKeys");
	const own = context.actor.person.role === "ops" ? undefined : eq(apiKeys.personId, context.actor.person.id);
	const done = await connection()
		.db.update(apiKeys)
		.set({ revokedAt: new Date() })
		.where(and(eq(apiKeys.id, id), isNull(apiKeys.revokedAt), own))
		.returning({ id: apiKeys.id });
	if (!done.length) throw notFound("key", id);
	await record(connection().db, context, "key revoked", id);
}
