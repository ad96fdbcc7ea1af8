import { createHash } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import type { z } from "zod";
import { connection, type Tx } from "@/data/db";
import { audit, idempotencyKeys } from "@/data/schema";
import { type ChangeSet, recordChange } from "@/data/store/changeLog";
import { instantNow } from "./clock";
import type { Context } from "./context";
import { Fault } from "./fault";
import { rateLimit } from "./rateLimit";
import { authorize, type Right } from "./rights";

/** What is kept of a write for whoever asks later who did what. */
export interface AuditEntry {
	readonly action: string;
	/** the id of what it is about; mostly a deal's */
	readonly subject?: string | null;
	/** what was changed from what to what, for whom: what the action and its subject don't say by themselves */
	readonly detail: Readonly<Record<string, unknown>>;
}

/** What a write gives back to the mechanism that carries it out. */
export interface Written<R> {
	/** the answer; as a function it is told the ids of the audit's entries */
	readonly result: R | ((entries: readonly number[]) => R);
	readonly touched: ChangeSet;
	readonly audit: AuditEntry | readonly AuditEntry[];
}

interface Given<N extends string, I extends z.ZodType, R> {
	/** `capability.verb`, as the browser, the docs and the tests name it */
	readonly name: N;
	readonly right: Right;
	readonly input: I;
	/** what it carries can't be sent by the browser's call: the bytes of a file */
	readonly server?: boolean;
	/** what it answers holds a secret that is kept nowhere, so it can't be answered again to what is sent twice */
	readonly secret?: boolean;
	/** nothing else may be half written while it is at work: it waits for what is, and what comes waits for it */
	readonly alone?: boolean;
	/** Computes what takes long and is kept, before the transaction begins: nobody is held up by it. */
	readonly prepare?: (given: { readonly context: Context; readonly input: z.output<I> }) => Promise<void>;
	/** Does the work within the transaction. What it throws leaves nothing behind. */
	readonly run: (given: { readonly context: Context; readonly input: z.output<I>; readonly tx: Tx }) => Promise<Written<R>>;
}

/** A write that can be called like a function, with what the lists made of it need to know. */
export interface Command<N extends string = string, I extends z.ZodType = z.ZodType, R = unknown> {
	(context: Context, input: z.input<I>): Promise<R>;
	readonly name: N;
	readonly kind: "command";
	readonly right: Right;
	readonly input: I;
	readonly server: boolean;
}

/**
 * Makes a command: everything a person writes goes through one. It checks the right, parses the input (this once),
 * opens the transaction, writes the audit and touches the revision.
 *
 * @throws Fault 403 without the right, and whatever `run` throws; ZodError for input that can't be
 * @example
 * export const removeMark = command({
 * 	name: "changes.removeMark", right: "keepMarks", input: z.object({ id: z.string() }),
 * 	run: async ({ input, tx }) => ({ result: {}, touched: "marks", audit: { action: "mark removed", detail: { name } } }),
 * });
 * await removeMark(context, { id });
 */
export function command<const N extends string, I extends z.ZodType, R>({
	name,
	right,
	input,
	server = false,
	alone = false,
	secret = false,
	prepare,
	run,
}: Given<N, I, R>): Command<N, I, R> {
	const call = async (context: Context, given: z.input<I>): Promise<R> => {
		authorize(context.actor, { name, right, writes: true });
		await rateLimit(context.actor.person.id);
		const parsed = input.parse(given);
		await prepare?.({ context, input: parsed });
		const once = context.once && `${context.actor.person.id} ${name} ${context.once}`;
		return write(
			{ personId: context.actor.person.id, instant: context.now.instant },
			(tx) => run({ context, input: parsed, tx }),
			alone ? "alone" : "among others",
			once ? { key: once, secret, input: digest(parsed) } : undefined,
		);
	};
	return describe(call, { name, kind: "command" as const, right, input, server });
}

/** A read that can be called like a function. */
export interface Query<N extends string = string, A extends readonly never[] | readonly unknown[] = readonly never[], R = unknown> {
	(context: Context, ...given: A): R;
	readonly name: N;
	readonly kind: "query";
	readonly right: Right;
}

/**
 * Makes a query: a read that checks its right before anything is read.
 *
 * @throws Fault 403 without the right, and whatever `read` throws
 * @example export const readMarks = query("changes.marks", "readChanges", (context: Context) => context.organisation.marks);
 */
export function query<const N extends string, A extends readonly unknown[], R>(
	name: N,
	right: Right,
	read: (context: Context, ...given: A) => R,
): Query<N, A, R> {
	const call = (context: Context, ...given: A): R => {
		authorize(context.actor, { name, right, writes: false });
		return read(context, ...given);
	};
	return describe(call, { name, kind: "query" as const, right });
}

/** A read the browser may ask for by name. */
export interface Lookup<N extends string = string, I extends z.ZodType = z.ZodType, R = unknown> {
	(context: Context, input: z.input<I>): Promise<R>;
	readonly name: N;
	readonly kind: "lookup";
	readonly right: Right;
	readonly input: I;
}

/**
 * Makes a lookup: a query whose input comes from the browser and is parsed.
 *
 * @throws Fault 403 without the right; ZodError for input that can't be; whatever `run` throws
 */
export function lookup<const N extends string, I extends z.ZodType, R>(given: {
	readonly name: N;
	readonly right: Right;
	readonly input: I;
	readonly run: (given: { readonly context: Context; readonly input: z.output<I> }) => Promise<R> | R;
}): Lookup<N, I, R> {
	const { name, right, input, run } = given;
	const call = async (context: Context, asked: z.input<I>): Promise<R> => {
		authorize(context.actor, { name, right, writes: false });
		return run({ context, input: input.parse(asked) });
	};
	return describe(call, { name, kind: "lookup" as const, right, input });
}

/**
 * Writes what the program does by itself, or on the command line: the same transaction, audit and touch, with nobody's
 * right to check. `personId` says who it is told of; null: the program.
 */
export function systemWrite<R>(work: (tx: Tx) => Promise<Written<R>>, personId: string | null = null, among: Among = "among others"): Promise<R> {
	return write({ personId, instant: null }, work, among);
}

/** Whether a write may go on beside others; one that takes its place later calls `sharedWriteLock` before it writes. */
export type Among = "among others" | "alone" | "later";

/** the lock that every write shares, and that what must be alone has for itself */
const WRITES = 720519;
const PATIENCE = "3s";

/** Waits for whoever must be alone; held until the commit. */
export const sharedWriteLock = (tx: Tx) => tx.execute(sql`select pg_advisory_xact_lock_shared(${WRITES})`);

async function alone(tx: Tx): Promise<void> {
	try {
		await tx.execute(sql`select set_config('lock_timeout', ${PATIENCE}, true)`);
		await tx.execute(sql`select pg_advisory_xact_lock(${WRITES})`);
		await tx.execute(sql`select set_config('lock_timeout', '0', true)`);
	} catch (error) {
		if ((error as { cause?: { code?: string } }).cause?.code !== "55P03") throw error;
		throw new Fault(503, "Busy", "A large write, such as an import, is running. Nothing was changed. Try again when it is done.");
	}
}

/** Takes a key for this write; where it is taken already, what that write answered. Waits for one that is under way. */
async function takeOnce(tx: Tx, { key, input }: Once): Promise<{ result: unknown } | null> {
	const taken = await tx.insert(idempotencyKeys).values({ key, input }).onConflictDoNothing().returning({ key: idempotencyKeys.key });
	if (taken.length) return null;
	const [before] = await tx.select({ result: idempotencyKeys.result, input: idempotencyKeys.input }).from(idempotencyKeys).where(eq(idempotencyKeys.key, key));
	if (before?.input && before.input !== input)
		throw new Fault(422, "Key already used", "This Idempotency-Key was used for a different change; use a new key for this one.");
	return { result: before?.result ?? null };
}

/** By which name a write is done once, and whether its answer is a secret. */
interface Once {
	readonly key: string;
	readonly secret: boolean;
	/** a sum over what is asked for: under one name one thing is asked for */
	readonly input: string;
}

const digest = (input: unknown) =>
	createHash("sha256")
		// Bytes go in by their own sum: spelled out they would be many times as long.
		.update(JSON.stringify(input, (_, value) => (value instanceof Uint8Array ? createHash("sha256").update(value).digest("hex") : value)) ?? "")
		.digest("hex");

/** Of whom, and by which instant of the program's clock (ms; null: its present one), a write is told. */
interface Told {
	readonly personId: string | null;
	readonly instant: number | null;
}

async function write<R>({ personId, instant }: Told, work: (tx: Tx) => Promise<Written<R>>, among: Among, once?: Once): Promise<R> {
	return connection().db.transaction(async (tx) => {
		if (among === "alone") await alone(tx);
		else if (among === "among others") await sharedWriteLock(tx);
		const before = once ? await takeOnce(tx, once) : null;
		if (before && once?.secret) throw new Fault(409, "Already done", "This was already done, and its answer is shown only once. If you lost it, do it again.");
		if (before) return before.result as R;
		const { result, touched, audit: told } = await work(tx);
		const entries = Array.isArray(told) ? (told as readonly AuditEntry[]) : [told as AuditEntry];
		const at = new Date(entries.length ? (instant ?? (await instantNow(tx))) : 0);
		const kept = entries.length
			? await tx
					.insert(audit)
					.values(entries.map(({ action, subject = null, detail }) => ({ at, personId, action, subject, detail })))
					.returning({ id: audit.id })
			: [];
		await recordChange(tx, touched);
		const answer = typeof result === "function" ? (result as (ids: readonly number[]) => R)(kept.map(({ id }) => id)) : result;
		if (once && !once.secret)
			await tx
				.update(idempotencyKeys)
				.set({ result: answer ?? null })
				.where(eq(idempotencyKeys.key, once.key));
		return answer;
	});
}

function describe<F extends (...given: never[]) => unknown, D extends object>(call: F, details: D): F & D {
	return Object.defineProperties(call, Object.getOwnPropertyDescriptors(details)) as F & D;
}
