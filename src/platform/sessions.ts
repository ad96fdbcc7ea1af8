import { createHash } from "node:crypto";
import { type SQL, sql } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { processWide } from "@/data/processWide";
import { batched } from "./batched";
import { type Context, contextFor } from "./context";

export const SESSION_COOKIE = "porch_lamp_session";

/** What is stored of a token: whoever reads the table can't sign in with it. */
export const tokenHash = (token: string) => createHash("sha256").update(token).digest("hex");

/** The context of a session's token, or null when it is unknown or over, or its person has left. */
export const sessionContext = async (token: string): Promise<Context | null> => contextBy(await ofSession(tokenHash(token)));

/** The context of an API key, or null when it is unknown or revoked. That it was used is noted once a minute. */
export async function keyContext(token: string): Promise<Context | null> {
	const found = await ofKey(tokenHash(token));
	const context = await contextBy(found);
	if (context && found?.stale) {
		await connection().db.execute(
			sql`update api_keys set last_used_at = now() where token_hash = ${tokenHash(token)} and (last_used_at is null or last_used_at < now() - interval '1 minute')`,
		);
	}
	return context;
}

/** Who is meant, and the revision as it was then. */
interface Found {
	readonly person: string;
	readonly revision: number;
	/** that the key is used should be noted again */
	readonly stale: boolean;
}

/** Who is meant and what has changed since, asked of the database at once, for all who ask at the same time. */
const asker = (query: (hashes: string[]) => SQL) =>
	batched(async (hashes: string[]): Promise<Map<string, Found>> => {
		const { rows } = await connection().db.execute(query(hashes));
		return new Map(
			rows.map((row) => [String(row.token_hash), { person: String(row.person_id), revision: Number(row.revision ?? 0), stale: row.stale === true }]),
		);
	});
const ofSession = processWide("sessions asked", () =>
	asker(
		(hashes) =>
			sql`select token_hash, person_id, (select number from revision) as revision from sessions where token_hash = any(${sql.param(hashes)}) and expires_at > now()`,
	),
);
const ofKey = processWide("keys asked", () =>
	asker(
		(hashes) =>
			sql`select token_hash, person_id, (select number from revision) as revision, last_used_at is null or last_used_at < now() - interval '1 minute' as stale from api_keys where token_hash = any(${sql.param(hashes)}) and revoked_at is null`,
	),
);

async function contextBy(found: Found | undefined): Promise<Context | null> {
	if (!found) return null;
	const context = await contextFor(found.person, found.revision);
	return context && worksOn(context.actor.person, context.now.day) ? context : null;
}
