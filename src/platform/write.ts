import { createHash } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { config } from "@/config/config";
import { connection, type Tx, waysToDatabase } from "@/data/db";
import { isAway, reachedBy } from "@/data/reach";
import { audit, idempotencyKeys } from "@/data/schema";
import { type ChangeSet, recordChange } from "@/data/store/changeLog";
import { instantNow } from "./clock";
import { databaseFault } from "./databaseFault";
import { Fault } from "./fault";
import { newId } from "./ids";
import { whenReached } from "./whileAway";

/** What is kept of a write, to be asked later who did what. */
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

/** Waits for a write that must be alone; held until the commit. */
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

/** A sum over what is asked for. */
export const digest = (input: unknown) =>
	createHash("sha256")
		// Bytes go in by their own sum: spelled out they would be many times as long.
		.update(JSON.stringify(input, (_, value) => (value instanceof Uint8Array ? createHash("sha256").update(value).digest("hex") : value)) ?? "")
		.digest("hex");

/** Of whom, and by which instant of the program's clock (ms; null: its present one), a write is told. */
interface Told {
	readonly personId: string | null;
	readonly instant: number | null;
}

/** so long a write waits for a database that is away, in s, unless PORCH_LAMP_WAIT says otherwise */
const WAITS = 20;
export const patience = () => Date.now() + (config().PORCH_LAMP_WAIT ?? WAITS) * 1000;

/**
 * Carries a write out. Where the database goes in the midst it waits for it and begins again: what broke off was never
 * committed, and where the break came with the commit itself, the write’s key tells whether it was.
 */
export async function write<R>(told: Told, work: (tx: Tx) => Promise<Written<R>>, among: Among, once?: Once): Promise<R> {
	const until = patience();
	const named = once ?? { key: `write ${newId()}`, secret: true, input: "" };
	const tried: Tried<R> = {};
	for (;;) {
		try {
			return await attempt(told, work, among, { once: named, own: !once }, tried);
		} catch (error) {
			if (!isAway(error)) throw error;
			const fault = tried.done ? UNKNOWN : databaseFault(error);
			if (!(await reachedBy(waysToDatabase(), until))) throw fault;
			if (tried.done && (await wasDone(named.key, until).catch(() => Promise.reject(fault)))) return tried.done.answer;
		}
	}
}

/** What a write’s tries have come to before their commits. */
interface Tried<R> {
	done?: { readonly answer: R };
}

const UNKNOWN = new Fault(503, "Please wait", "The database was lost while this was being saved, so it isn’t known whether it was. Look before you try again.");

/** Whether the write of a key was committed, as a database says that is there again. */
const wasDone = (key: string, until: number): Promise<boolean> =>
	whenReached(until, async () => {
		const found = await connection().db.select({ key: idempotencyKeys.key }).from(idempotencyKeys).where(eq(idempotencyKeys.key, key));
		return found.length > 0;
	});

/** `own`: the key is this call’s alone, so that nobody has taken it before. */
interface Named {
	readonly once: Once;
	readonly own: boolean;
}

async function attempt<R>({ personId, instant }: Told, work: (tx: Tx) => Promise<Written<R>>, among: Among, { once, own }: Named, tried: Tried<R>): Promise<R> {
	return connection().db.transaction(async (tx) => {
		if (among === "alone") await alone(tx);
		else if (among === "among others") await sharedWriteLock(tx);
		const before = await takeOnce(tx, once);
		// An earlier try’s commit was still under way when it was asked for.
		if (before && tried.done) return tried.done.answer;
		if (before && once.secret && !own)
			throw new Fault(409, "Already done", "This was already done, and its answer is shown only once. If you lost it, do it again.");
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
		if (!once.secret)
			await tx
				.update(idempotencyKeys)
				.set({ result: answer ?? null })
				.where(eq(idempotencyKeys.key, once.key));
		tried.done = { answer };
		return answer;
	});
}
