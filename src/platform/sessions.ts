import { createHash } from "node:crypto";
import { type SQL, sql } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { processSingleton } from "@/data/processSingleton";
import { batched } from "./batched";
import { type Context, contextFor } from "./context";
import { unlessFull } from "./databaseFault";
import type { ActingKey } from "./rights";

export const SESSION_COOKIE = "porch_lamp_session";

/** What is stored of a token: whoever reads the table can't sign in with it. */
export const tokenHash = (token: string) => createHash("sha256").update(token).digest("hex");

/** A session that nobody has used for so long is over. */
export const IDLE_DAYS = 3;

/** The context of a session's token, or null when it is unknown, idle or over, or its person has left. That it was used is noted once in five minutes. */
export async function sessionContext(token: string): Promise<Context | null> {
	const found = await ofSession(tokenHash(token));
	const context = await contextBy(found);
	if (context && found?.stale) {
		await unlessFull(
			connection().db.execute(
				sql`update sessions set last_seen_at = now() where token_hash = ${tokenHash(token)} and last_seen_at < now() - interval '5 minutes'`,
			),
		);
	}
	return context;
}

/** The context of an API key, or null when it is unknown or revoked. That it was used is noted once a minute. */
export async function keyContext(token: string): Promise<Context | null> {
	const found = await ofKey(tokenHash(token));
	const context = await contextBy(found);
	if (context && found?.stale) {
		await unlessFull(
			connection().db.execute(
				sql`update api_keys set last_used_at = now() where token_hash = ${tokenHash(token)} and (last_used_at is null or last_used_at < now() - interval '1 minute')`,
			),
		);
	}
	return context;
}

/** Who is meant, and the revision as it was then. */
interface Found {
	readonly person: string;
	readonly revision: number;
	/** that it is used should be noted again */
	readonly stale: boolean;
	/** of a key: what it may do */
	readonly key: ActingKey | null;
}

/** Who is meant and what has changed since, asked of the database at once, for all who ask at the same time. */
const asker = (query: (hashes: string[]) => SQL) =>
	batched(async (hashes: string[]): Promise<Map<string, Found>> => {
		const { rows } = await connection().db.execute(query(hashes));
		return new Map(
			rows.map((row) => [
				String(row.token_hash),
				{
					person: String(row.person_id),
					revision: Number(row.revision ?? 0),
					stale: row.stale === true,
					key: row.id === undefined ? null : { id: String(row.id), write: row.write === true, areas: row.areas as string[] },
				},
			]),
		);
	});
const ofSession = processSingleton("sessions asked", () =>
	asker(
		(hashes) =>
			sql`select token_hash, person_id, (select number from revision) as revision, last_seen_at < now() - interval '5 minutes' as stale from sessions where token_hash = any(${sql.param(hashes)}) and expires_at > now() and last_seen_at > now() - make_interval(days => ${IDLE_DAYS})`,
	),
);
const ofKey = processSingleton("keys asked", () =>
	asker(
		(hashes) =>
			sql`select token_hash, person_id, (select number from revision) as revision, last_used_at is null or last_used_at < now() - interval '1 minute' as stale, id, write, areas from api_keys where token_hash = any(${sql.param(hashes)}) and revoked_at is null and (expires_at is null or expires_at > now())`,
	),
);

async function contextBy(found: Found | undefined): Promise<Context | null> {
	if (!found) return null;
	const context = await contextFor(found.person, found.revision);
	if (!context || !worksOn(context.actor.person, context.now.day)) return null;
	return found.key ? { ...context, actor: { ...context.actor, key: found.key } } : context;
}
