import { and, desc, eq, gt, ne, sql } from "drizzle-orm";
import { toString as drawn } from "qrcode";
import { z } from "zod";
import { connection } from "@/data/db";
import { people, sessions } from "@/data/schema";
import { command, lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault, notFound } from "@/platform/fault";
import { IDLE_DAYS } from "@/platform/sessions";
import { codeStep, newCodeSecret } from "./codes";
import { demandPassword, demandSelf } from "./ownPassword";
import { type OwnPasskey, passkeysOf } from "./passkeys/own";
import { party } from "./passkeys/party";
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
	readonly passkeys: readonly OwnPasskey[];
	/** where a page has to come from for passkeys to be made and used; null where there can be none */
	readonly passkeysAt: string | null;
	readonly sessions: readonly OwnSession[];
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
		passkeys: await passkeysOf(me),
		passkeysAt: party()?.origin ?? null,
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
