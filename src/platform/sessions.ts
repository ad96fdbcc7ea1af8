import { createHash } from "node:crypto";
import { and, eq, gt, isNull } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { apiKeys, sessions } from "@/data/schema";
import { type Context, contextFor } from "./context";

/** What is stored of a token: whoever reads the table can't sign in with it. */
export const tokenHash = (token: string) => createHash("sha256").update(token).digest("hex");

/** The context of a session's token, or null when it is unknown or over, or its person has left. */
export async function sessionContext(token: string): Promise<Context | null> {
	const { db } = connection();
	const [session] = await db
		.select({ personId: sessions.personId })
		.from(sessions)
		.where(and(eq(sessions.tokenHash, tokenHash(token)), gt(sessions.expiresAt, new Date())));
	return session ? active(await contextFor(session.personId)) : null;
}

/** The context of an API key, or null when it is unknown or revoked. */
export async function keyContext(token: string): Promise<Context | null> {
	const { db } = connection();
	const [key] = await db
		.update(apiKeys)
		.set({ lastUsedAt: new Date() })
		.where(and(eq(apiKeys.tokenHash, tokenHash(token)), isNull(apiKeys.revokedAt)))
		.returning({ personId: apiKeys.personId });
	return key ? active(await contextFor(key.personId)) : null;
}

const active = (context: Context | null) => (context && worksOn(context.actor.person, context.now.day) ? context : null);
