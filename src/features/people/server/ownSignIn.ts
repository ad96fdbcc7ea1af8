import { verify } from "@node-rs/argon2";
import { and, desc, eq, gt, ne, sql } from "drizzle-orm";
import { toString as drawn } from "qrcode";
import { z } from "zod";
import { connection, type Tx } from "@/data/db";
import { people, sessions } from "@/data/schema";
import { command, lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { demandLimit, forgetTries } from "@/platform/limit";
import { IDLE_DAYS } from "@/platform/sessions";
import { codeStep, newCodeSecret } from "./codes";
import { hashPassword, passwordFault, passwordInput } from "./passwords";

export interface OwnSession {
	readonly id: string;
	readonly agent: string;
	readonly source: string;
	readonly createdAt: string;
	readonly lastSeenAt: string;
	/** the one that looks */
	readonly mine: boolean;
}

export interface OwnSignIn {
	readonly email: string | null;
	/** one-time codes are switched on */
	readonly codes: boolean;
	readonly sessions: readonly OwnSession[];
}

/** A key acts for somebody, and isn't them: how they sign in is theirs alone. */
function demandSelf({ actor }: Context): void {
	if (actor.key) throw new Fault(403, "Not allowed", "A key can’t change how its person signs in.");
}

/** How one signs in: the sessions that are open, and whether one-time codes are asked for. `token` is the hash of the session that looks. */
export const readOwnSignIn = query("people.ownSignIn", "ownSignIn", async (context: Context, token: string | null): Promise<OwnSignIn> => {
	const { db } = connection();
	const me = context.actor.person.id;
	const [person] = await db.select({ email: people.email, codeSecret: people.codeSecret }).from(people).where(eq(people.id, me));
	const rows = await db
		.select()
		.from(sessions)
		.where(and(eq(sessions.personId, me), gt(sessions.expiresAt, new Date()), gt(sessions.lastSeenAt, sql`now() - make_interval(days => ${IDLE_DAYS})`)))
		.orderBy(desc(sessions.lastSeenAt));
	return {
		email: person?.email ?? null,
		codes: Boolean(person?.codeSecret),
		sessions: rows.map((row) => ({
			id: row.id,
			agent: row.agent,
			source: row.source,
			createdAt: row.createdAt.toISOString(),
			lastSeenAt: row.lastSeenAt.toISOString(),
			mine: row.tokenHash === token,
		})),
	};
});

async function demandPassword(tx: Tx, personId: string, password: string): Promise<typeof people.$inferSelect> {
	await demandLimit("own password", personId);
	const [person] = await tx.select().from(people).where(eq(people.id, personId)).for("update");
	if (!person?.passwordHash || !(await verify(person.passwordHash, password)))
		throw new Fault(403, "Wrong password", "This isn’t your current password; nothing was changed.");
	await forgetTries("own password", personId);
	return person;
}

/** Changes one's own password. All other sessions end with it. */
export const changePassword = command({
	name: "people.changePassword",
	right: "ownSignIn",
	input: z.object({ present: passwordInput, next: passwordInput, sessionId: z.string().max(100).nullable() }),
	async run({ context, input: { present, next, sessionId }, tx }) {
		demandSelf(context);
		const person = await demandPassword(tx, context.actor.person.id, present);
		const fault = passwordFault(next, [person.name, person.email]);
		if (fault) throw new Fault(422, "Choose another password", fault);
		await tx
			.update(people)
			.set({ passwordHash: await hashPassword(next) })
			.where(eq(people.id, person.id));
		const ended = await tx
			.delete(sessions)
			.where(and(eq(sessions.personId, person.id), ne(sessions.id, sessionId ?? "")))
			.returning({ id: sessions.id });
		return { result: {}, touched: "nothing", audit: { action: "password changed", subject: person.id, detail: { sessionsEnded: ended.length } } };
	},
});

/** Ends a session of one's own; null: all but the one that asks. */
export const endSession = command({
	name: "people.endSession",
	right: "ownSignIn",
	input: z.object({ id: z.string().max(100).nullable(), except: z.string().max(100).nullable() }),
	async run({ context, input: { id, except }, tx }) {
		demandSelf(context);
		const own = eq(sessions.personId, context.actor.person.id);
		const gone = await tx
			.delete(sessions)
			.where(and(own, id === null ? ne(sessions.id, except ?? "") : eq(sessions.id, id)))
			.returning({ id: sessions.id });
		if (id !== null && !gone.length) throw notFound("session of yours", id);
		return {
			result: { count: gone.length },
			touched: "nothing",
			audit: { action: "sessions ended", subject: context.actor.person.id, detail: { count: gone.length } },
		};
	},
});

/** A secret of one-time codes to be put into an authenticator; nothing is switched on by it. */
export const offerCodes = lookup({
	name: "people.offerCodes",
	right: "ownSignIn",
	input: z.object({}),
	async run({ context }) {
		demandSelf(context);
		const { sealed, text, address } = newCodeSecret(context.actor.person.email ?? context.actor.person.id);
		return { sealed, text, address, picture: await drawn(address, { type: "svg", margin: 1 }) };
	},
});

/** Switches one-time codes on, once the authenticator shows a right one. */
export const switchCodesOn = command({
	name: "people.switchCodesOn",
	right: "ownSignIn",
	input: z.object({ sealed: z.string().max(1000), code: z.string().trim().max(20), password: passwordInput }),
	async run({ context, input: { sealed, code, password }, tx }) {
		demandSelf(context);
		const person = await demandPassword(tx, context.actor.person.id, password);
		const step = codeStep(sealed, code, null);
		if (step === null)
			throw new Fault(422, "Wrong code", "This isn’t the current code for the secret. Check the authenticator’s clock, and enter the code it shows.");
		await tx.update(people).set({ codeSecret: sealed, lastCode: step }).where(eq(people.id, person.id));
		return { result: {}, touched: "nothing", audit: { action: "one-time codes turned on", subject: person.id, detail: { before: "off", after: "on" } } };
	},
});

/** Switches one-time codes off again. */
export const switchCodesOff = command({
	name: "people.switchCodesOff",
	right: "ownSignIn",
	input: z.object({ password: passwordInput }),
	async run({ context, input: { password }, tx }) {
		demandSelf(context);
		const person = await demandPassword(tx, context.actor.person.id, password);
		await tx.update(people).set({ codeSecret: null, lastCode: null }).where(eq(people.id, person.id));
		return { result: {}, touched: "nothing", audit: { action: "one-time codes turned off", subject: person.id, detail: { before: "on", after: "off" } } };
	},
});
