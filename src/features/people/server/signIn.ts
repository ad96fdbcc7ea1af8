import { randomBytes } from "node:crypto";
import { verify } from "@node-rs/argon2";
import { and, eq, isNull, lt, or, sql } from "drizzle-orm";
import type { RateLimiterPostgres } from "rate-limiter-flexible";
import { z } from "zod";
import { worksOn } from "@/core/people/person";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { people, sessions } from "@/data/schema";
import { clock } from "@/platform/clock";
import { Fault } from "@/platform/fault";
import { unseal } from "@/platform/sealedText";
import { IDLE_DAYS, tokenHash } from "@/platform/sessions";
import { refused, sharedLimiter } from "@/platform/sharedLimiter";
import { systemWrite } from "@/platform/write";
import { codeStep } from "./codes";
import { staysOut } from "./demoPeople";
import { hashPassword } from "./passwords";
import { passwordsFor } from "./provider/settings";

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

const limiters = () => ({
	pair: sharedLimiter("pair", PAIR, WINDOW),
	source: sharedLimiter("source", PLACE, WINDOW),
	person: sharedLimiter("person", 1_000_000, WINDOW),
	once: sharedLimiter("once", 1, WINDOW),
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
	if (!(await passwordsFor(person?.id ?? null))) throw new Fault(401, "Not signed in", "Passwords are turned off here: use the company’s sign-in.");
	const step = person?.codeSecret ? codeStep(person.codeSecret, input.code ?? "", person.lastCode) : 0;
	const { all, may } = await passwordsFor(person?.id ?? null);
	if (!person?.passwordHash || !right || step === null || !may) {
		await limits.person.penalty(email, 1);
		await systemWrite(async () => ({
			result: null,
			touched: "nothing",
			audit: { action: "sign-in failed", subject: person?.id ?? null, detail: { email, source } },
		}));
		// Of whom it may be is said nothing: all who fail are told the same.
		if (!all) throw new Fault(401, "Not signed in", "Passwords are turned off here, but for the emergency person: use the company’s sign-in.");
		const code = person?.codeSecret && right;
		throw new Fault(
			401,
			"Not signed in",
			code ? "Enter the one-time code your authenticator shows now; each code works once." : "The e-mail address or the password is wrong.",
		);
	}
	await demandHere(person.id);
	// Only failed attempts count: a whole office may sign in from one address.
	await limits.pair.delete(`${email} ${source}`);
	await limits.person.delete(email);
	await limits.source.reward(source, 1);
	return openSession(person.id, { source, agent }, null, async (tx) => {
		if (!person.codeSecret) return {};
		// Two who send one code at once: one of them is late.
		const used = await tx
			.update(people)
			.set({ lastCode: step })
			.where(and(eq(people.id, person.id), or(isNull(people.lastCode), lt(people.lastCode, step))))
			.returning({ id: people.id });
		if (!used.length) throw new Fault(401, "Not signed in", "This one-time code was used already; wait for the next.");
		return {};
	});
}

/** @throws Fault 401 for who has left, and for people of the demo beside a company of one’s own */
export async function demandHere(personId: string): Promise<void> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const known = organisation.people[organisation.personIndex.get(personId) ?? -1];
	if (!known || !worksOn(known, clock(organisation).day))
		throw new Fault(401, "Not signed in", "This person is no longer with the company, so the sign-in is closed.");
	if (await staysOut(db, personId))
		throw new Fault(401, "Not signed in", "This person belongs to the demo company, whose password is public, so they can’t sign in to your own company.");
}

type Opened = Partial<Pick<typeof sessions.$inferInsert, "providerSid" | "idToken">>;

/** Opens a session of somebody who was found to be themselves, by something else than a password where it is said; what `first` throws leaves none. Answers its token. */
export async function openSession(
	personId: string,
	{ source, agent }: Origin,
	by: string | null,
	first: (tx: Tx) => Promise<Opened>,
): Promise<{ token: string; expires: Date }> {
	const token = randomBytes(32).toString("base64url");
	const expires = new Date(Date.now() + SESSION_DAYS * MS_PER_DAY);
	await systemWrite(async (tx) => {
		await tx.delete(sessions).where(or(lt(sessions.expiresAt, new Date()), lt(sessions.lastSeenAt, new Date(Date.now() - IDLE_DAYS * MS_PER_DAY))));
		const opened = await first(tx);
		await tx.insert(sessions).values({ tokenHash: tokenHash(token), personId, expiresAt: expires, agent: agent.slice(0, 300), source, ...opened });
		const detail = { source, ...(by ? { by } : {}) };
		return { result: null, touched: "nothing", audit: { action: "signed in", subject: personId, detail } };
	}, personId);
	return { token, expires };
}

/** Counts a try by something else than a password, from a place; one that succeeds is forgotten. */
export async function countTry(key: string, source: string): Promise<void> {
	const limits = limiters();
	await consume(limits.source, source);
	await consume(limits.pair, key);
}
export async function forgetTry(key: string, source: string): Promise<void> {
	const limits = limiters();
	await limits.pair.delete(key);
	await limits.source.reward(source, 1);
}

/** Uses up what opens once. @throws Fault 401 for what was used already */
export async function spendOnce(text: string): Promise<void> {
	if ((await refused(limiters().once, tokenHash(text))) !== null) throw new Fault(401, "Not signed in", "This was used to sign in already. Try again.");
}

async function consume(limiter: RateLimiterPostgres, key: string): Promise<void> {
	const wait = await refused(limiter, key);
	if (wait !== null)
		throw new Fault(429, "Too many attempts", `Too many sign-in attempts. Wait ${Math.max(1, Math.ceil(wait / 60_000))} minutes and try again.`);
}

/** Ends a session; one that has ended already stays so. Gives the token of the company’s sign-in that had opened it. */
export async function signOut(token: string): Promise<string | null> {
	return systemWrite(async (tx) => {
		const gone = await tx
			.delete(sessions)
			.where(eq(sessions.tokenHash, tokenHash(token)))
			.returning({ person: sessions.personId, source: sessions.source, idToken: sessions.idToken });
		const audit = gone.map(({ person, source }) => ({ action: "signed out", subject: person, detail: { source } }));
		return { result: gone[0]?.idToken ? unseal(gone[0].idToken) : null, touched: "nothing", audit };
	});
}
