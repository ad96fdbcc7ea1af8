import { createHash } from "node:crypto";
import { type SQL, sql } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { keptRevision } from "@/data/organisation/follow";
import { processSingleton } from "@/data/processSingleton";
import { DatabaseAway } from "@/data/reach";
import { batched } from "./batched";
import { type Context, contextFor } from "./context";
import { unlessFull } from "./databaseFault";
import type { ActingKey } from "./rights";
import { orKnown } from "./whileAway";

export const SESSION_COOKIE = "porch_lamp_session";

/** What is stored of a token: whoever reads the table can't sign in with it. */
export const tokenHash = (token: string) => createHash("sha256").update(token).digest("hex");

/** A session that nobody has used for so long is over. */
export const IDLE_DAYS = 3;

/** The context of a session's token, or null when it is unknown, idle or over, or its person has left. That it was used is noted once in five minutes. */
export const sessionContext = (token: string): Promise<Context | null> =>
	contextOf(ofSession, tokenHash(token), (hash) =>
		connection().db.execute(sql`update sessions set last_seen_at = now() where token_hash = ${hash} and last_seen_at < now() - interval '5 minutes'`),
	);

/** The context of an API key, or null when it is unknown or revoked. That it was used is noted once a minute. */
export const keyContext = (token: string): Promise<Context | null> =>
	contextOf(ofKey, tokenHash(token), (hash) =>
		connection().db.execute(
			sql`update api_keys set last_used_at = now() where token_hash = ${hash} and (last_used_at is null or last_used_at < now() - interval '1 minute')`,
		),
	);

/** so long somebody who was let in before may read what is in memory while the database can’t be asked, in ms, and so many are remembered */
const REMEMBERED = 10 * 60_000;
const MOST = 50_000;
const remembered = processSingleton("let in before", () => new LRUCache<string, Found>({ max: MOST, ttl: REMEMBERED }));

async function contextOf(ask: typeof ofSession, hash: string, note: (hash: string) => Promise<unknown>): Promise<Context | null> {
	return orKnown(
		async () => {
			const found = await ask(hash);
			if (found) remembered.set(hash, found);
			else remembered.delete(hash);
			const context = await contextBy(found);
			if (context && found?.stale) await unlessFull(note(hash));
			return context;
		},
		() => {
			const found = remembered.get(hash);
			const revision = keptRevision();
			if (!found || revision === null) throw new DatabaseAway();
			return contextBy({ ...found, revision });
		},
	);
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
