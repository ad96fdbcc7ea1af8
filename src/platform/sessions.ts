import { createHash } from "node:crypto";
import { sql } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { type Context, contextFor } from "./context";

export const SESSION_COOKIE = "porch_lamp_session";

/** What is stored of a token: whoever reads the table can't sign in with it. */
export const tokenHash = (token: string) => createHash("sha256").update(token).digest("hex");

/** The context of a session's token, or null when it is unknown or over, or its person has left. */
export const sessionContext = (token: string): Promise<Context | null> =>
	contextBy(sql`select person_id from sessions where token_hash = ${tokenHash(token)} and expires_at > now()`);

/** The context of an API key, or null when it is unknown or revoked. That it was used is noted once a minute. */
export async function keyContext(token: string): Promise<Context | null> {
	const hash = tokenHash(token);
	const context = await contextBy(sql`select person_id from api_keys where token_hash = ${hash} and revoked_at is null`);
	if (context) {
		await connection().db.execute(
			sql`update api_keys set last_used_at = now() where token_hash = ${hash} and (last_used_at is null or last_used_at < now() - interval '1 minute')`,
		);
	}
	return context;
}

/** Who is meant and what has changed since, asked of the database at once. */
async function contextBy(person: ReturnType<typeof sql>): Promise<Context | null> {
	const { rows } = await connection().db.execute(sql`select (${person}) as person, (select number from revision) as revision`);
	const [found] = rows;
	if (typeof found?.person !== "string") return null;
	const context = await contextFor(found.person, Number(found.revision ?? 0));
	return context && worksOn(context.actor.person, context.now.day) ? context : null;
}
