import { randomBytes } from "node:crypto";
import { hash, verify } from "@node-rs/argon2";
import { eq, lt, sql } from "drizzle-orm";
import { RateLimiterPostgres, type RateLimiterRes } from "rate-limiter-flexible";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { processWide } from "@/data/processWide";
import { people, sessions } from "@/data/schema";
import { clock } from "@/platform/clock";
import { Fault } from "@/platform/fault";
import { tokenHash } from "@/platform/sessions";

export const SESSION_DAYS = 14;
const MS_PER_DAY = 86_400_000;

export const signInSchema = z.object({
	email: z.string().trim().min(1, "Write your e-mail address.").max(320),
	password: z.string().min(1, "Write your password.").max(1000),
});

/** Attempts are counted in the database, so that several processes count together. */
const limiters = () =>
	processWide("sign-in limits", () => {
		const { pool } = connection();
		const make = (keyPrefix: string, points: number) =>
			new RateLimiterPostgres({ storeClient: pool, tableName: "sign_in_attempts", tableCreated: true, keyPrefix, points, duration: 900 });
		return { person: make("person", 8), source: make("source", 60) };
	});

export const hashPassword = (password: string) => hash(password);

/** A hash nobody's password has, so that an unknown address takes as long as a known one. */
let decoy: Promise<string> | undefined;

/** Checks e-mail and password and opens a session; answers its token. Throws 401 or, after too many tries, 429. */
export async function signIn(input: z.infer<typeof signInSchema>, source: string): Promise<{ token: string; expires: Date }> {
	const { db } = connection();
	const email = input.email.toLowerCase();
	const { person: perPerson, source: perSource } = limiters();
	await consume(perSource, source);
	await consume(perPerson, email);
	const [person] = await db
		.select()
		.from(people)
		.where(eq(sql`lower(${people.email})`, email));
	decoy ??= hashPassword(randomBytes(16).toString("hex"));
	const right = await verify(person?.passwordHash ?? (await decoy), input.password);
	if (!person?.passwordHash || !right) throw new Fault(401, "Not signed in", "This e-mail address and password don't belong together.");
	const organisation = await currentOrganisation(db);
	const known = organisation.people[organisation.personIndex.get(person.id) ?? -1];
	if (!known || !worksOn(known, clock(organisation).day)) throw new Fault(401, "Not signed in", "This person no longer works here, so the sign-in is closed.");
	// Only failed attempts count: a whole office may sign in from one address.
	await perPerson.delete(email);
	await perSource.reward(source, 1);
	const token = randomBytes(32).toString("base64url");
	const expires = new Date(Date.now() + SESSION_DAYS * MS_PER_DAY);
	await db.delete(sessions).where(lt(sessions.expiresAt, new Date()));
	await db.insert(sessions).values({ tokenHash: tokenHash(token), personId: person.id, expiresAt: expires });
	return { token, expires };
}

async function consume(limiter: RateLimiterPostgres, key: string): Promise<void> {
	try {
		await limiter.consume(key);
	} catch (refusal) {
		const wait = (refusal as RateLimiterRes).msBeforeNext;
		if (wait === undefined) throw refusal;
		throw new Fault(429, "Too many attempts", `Too many sign-ins were tried. Wait ${Math.max(1, Math.ceil(wait / 60_000))} minutes and try again.`);
	}
}

export async function signOut(token: string): Promise<void> {
	await connection()
		.db.delete(sessions)
		.where(eq(sessions.tokenHash, tokenHash(token)));
}
