import { randomBytes } from "node:crypto";
import { verify } from "@node-rs/argon2";
import { and, eq, isNull, lt, or, sql } from "drizzle-orm";
import { RateLimiterPostgres, type RateLimiterRes } from "rate-limiter-flexible";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { processSingleton } from "@/data/processSingleton";
import { people, sessions } from "@/data/schema";
import { clock } from "@/platform/clock";
import { systemWrite } from "@/platform/command";
import { Fault } from "@/platform/fault";
import { IDLE_DAYS, tokenHash } from "@/platform/sessions";
import { codeStep } from "./codes";
import { staysOut } from "./demoPeople";
import { hashPassword } from "./passwords";

export { hashPassword } from "./passwords";

export const SESSION_DAYS = 14;
const MS_PER_DAY = 86_400_000;

export const signInSchema = z.object({
	email: z.string().trim().min(1, "Enter your e-mail address.").max(320),
	password: z.string().min(1, "Enter your password.").max(1000),
	code: z.string().trim().max(20).optional(),
});

/** Where a sign-in comes from: an address that can be trusted (`sourced`), and what the browser calls itself. */
export interface Origin {
	readonly source: string;
	readonly agent: string;
}

const WINDOW = 900;
/** tries of one person from one place, and of anybody from one place */
const PAIR = 8;
const PLACE = 60;
/** failures of one person from anywhere after which each further try is made to wait */
const CALM = 10;
const LONGEST_WAIT = 3000;

/** Attempts are counted in the database, so that several processes count together. */
const limiters = () =>
	processSingleton("sign-in limits", () => {
		const { pool } = connection();
		const make = (keyPrefix: string, points: number) =>
			new RateLimiterPostgres({ storeClient: pool, tableName: "sign_in_attempts", tableCreated: true, keyPrefix, points, duration: WINDOW });
		return { pair: make("pair", PAIR), source: make("source", PLACE), person: make("person", 1_000_000) };
	});

/** A hash nobody's password has, so that an unknown address takes as long as a known one. */
let decoy: Promise<string> | undefined;

/**
 * Checks e-mail, password and code and opens a session; answers its token. Guesses are counted by person and place: who
 * guesses is refused for a time, and the person themselves can go on signing in from elsewhere, if more slowly while many
 * guess.
 *
 * @throws Fault 401, or 429 after too many tries
 */
export async function signIn(input: z.infer<typeof signInSchema>, { source, agent }: Origin): Promise<{ token: string; expires: Date }> {
	const { db } = connection();
	const email = input.email.toLowerCase();
	const limits = limiters();
	await consume(limits.source, source);
	await consume(limits.pair, `${email} ${source}`);
	const failures = (await limits.person.get(email))?.consumedPoints ?? 0;
	if (failures > CALM) await new Promise((resolve) => setTimeout(resolve, Math.min(LONGEST_WAIT, 100 * 2 ** (failures - CALM))));
	const [person] = await db
		.select()
		.from(people)
		.where(eq(sql`lower(${people.email})`, email));
	decoy ??= hashPassword(randomBytes(16).toString("hex"));
	const right = await verify(person?.passwordHash ?? (await decoy), input.password);
	const step = person?.codeSecret ? codeStep(person.codeSecret, input.code ?? "", person.lastCode) : 0;
	if (!person?.passwordHash || !right || step === null) {
		await limits.person.penalty(email, 1);
		await systemWrite(async () => ({
			result: null,
			touched: "nothing",
			audit: { action: "sign-in failed", subject: person?.id ?? null, detail: { email, source } },
		}));
		const code = person?.codeSecret && right;
		throw new Fault(
			401,
			"Not signed in",
			code ? "Enter the one-time code your authenticator shows now; each code works once." : "The e-mail address or the password is wrong.",
		);
	}
	const organisation = await currentOrganisation(db);
	const known = organisation.people[organisation.personIndex.get(person.id) ?? -1];
	if (!known || !worksOn(known, clock(organisation).day))
		throw new Fault(401, "Not signed in", "This person is no longer with the company, so the sign-in is closed.");
	if (await staysOut(db, person.id))
		throw new Fault(401, "Not signed in", "This person belongs to the demo company, whose password is public, so they can’t sign in to your own company.");
	// Only failed attempts count: a whole office may sign in from one address.
	await limits.pair.delete(`${email} ${source}`);
	await limits.person.delete(email);
	await limits.source.reward(source, 1);
	const token = randomBytes(32).toString("base64url");
	const expires = new Date(Date.now() + SESSION_DAYS * MS_PER_DAY);
	await systemWrite(async (tx) => {
		await tx.delete(sessions).where(or(lt(sessions.expiresAt, new Date()), lt(sessions.lastSeenAt, new Date(Date.now() - IDLE_DAYS * MS_PER_DAY))));
		if (person.codeSecret) {
			// Two who send one code at once: one of them is late.
			const used = await tx
				.update(people)
				.set({ lastCode: step })
				.where(and(eq(people.id, person.id), or(isNull(people.lastCode), lt(people.lastCode, step))))
				.returning({ id: people.id });
			if (!used.length) throw new Fault(401, "Not signed in", "This one-time code was used already; wait for the next.");
		}
		await tx.insert(sessions).values({ tokenHash: tokenHash(token), personId: person.id, expiresAt: expires, agent: agent.slice(0, 300), source });
		return { result: null, touched: "nothing", audit: { action: "signed in", subject: person.id, detail: { source } } };
	}, person.id);
	return { token, expires };
}

async function consume(limiter: RateLimiterPostgres, key: string): Promise<void> {
	try {
		await limiter.consume(key);
	} catch (refusal) {
		const wait = (refusal as RateLimiterRes).msBeforeNext;
		if (wait === undefined) throw refusal;
		throw new Fault(429, "Too many attempts", `Too many sign-in attempts. Wait ${Math.max(1, Math.ceil(wait / 60_000))} minutes and try again.`);
	}
}

/** Ends a session; one that has ended already stays so. */
export async function signOut(token: string): Promise<void> {
	await systemWrite(async (tx) => {
		const gone = await tx
			.delete(sessions)
			.where(eq(sessions.tokenHash, tokenHash(token)))
			.returning({ person: sessions.personId, source: sessions.source });
		return { result: null, touched: "nothing", audit: gone.map(({ person, source }) => ({ action: "signed out", subject: person, detail: { source } })) };
	});
}
