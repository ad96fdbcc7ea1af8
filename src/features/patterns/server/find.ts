import { createHash } from "node:crypto";
import { and, eq, isNull, lt, lte, or, sql } from "drizzle-orm";
import { config } from "@/config/config";
import { derive } from "@/core/derive";
import { type Day, formatDay } from "@/core/time/day";
import { fiscalKey } from "@/core/time/fiscal";
import { connection } from "@/data/db";
import { accountsKey } from "@/data/organisation/former";
import { processSingleton } from "@/data/processSingleton";
import { findings } from "@/data/schema";
import { type Context, contextFor } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { log } from "@/platform/log";
import { reachOf } from "@/platform/reach";
import { inThread } from "@/platform/threads";
import { FINDING_KINDS, type FindingKind, type Given } from "./findings";

/** What was found, and as of when it is known. */
export interface FindingOrProgress<T> {
	/** null while it is being worked out for the first time */
	readonly answer: T | null;
	/** the instant up to which it is known, ISO; null: all that there is is in it */
	readonly asOf: string | null;
	/** how far it is, while it is being worked out, anew or for the first time */
	readonly progress: { readonly done: number; readonly steps: number } | null;
}

/** Companies of more deals than this have their past worked out by a thread, and kept. */
const APART_FROM = 5000;
const apartFrom = () => config().PORCH_LAMP_APART ?? APART_FROM;
/** Whether a finding is left to a thread of its own: the company is too large to compute it while somebody waits. */
export const isApart = ({ organisation }: Context): boolean => organisation.deals.length > apartFrom();

/** What the thread was asked and hasn't answered yet. */
const underWay = processSingleton("findings under way", () => new Set<string>());
/** progress is written so often at most */
const TELL = 400;

/** Raised when the same question is answered otherwise: what was found before isn't the answer any more. */
const FORM = 5;

/** Names a question: the same for all who reach the same deals, under the same rules. */
function keyOf(context: Context, what: string, given: Given): string {
	const { organisation, actor } = context;
	const { rules } = organisation.company;
	const reach = reachOf(organisation, actor);
	const reached = reach === null ? "all" : [...reach].map((index) => organisation.people[index]?.id).sort();
	const by = derive(rules, "rules hashed", "", () =>
		hash([
			rules.flags,
			rules.attention,
			rules.attentionWas,
			rules.editions,
			rules.stages,
			fiscalKey(rules.fiscal),
			organisation.commitGoal,
			organisation.reasonReturns,
		]),
	);
	return `${what} ${hash([FORM, given, reached, by])}`;
}
const hash = (value: unknown) => createHash("sha256").update(JSON.stringify(value)).digest("base64url").slice(0, 32);

/**
 * Finds something out of the whole past. A small company's is worked out where it is asked for; a large one's by a thread,
 * and kept: what is asked for the first time is on its way, and what was found before somebody's write is given as of then
 * while it is worked out anew. Nobody waits. The use case has checked the rights.
 */
export async function findingOrProgress<T>(context: Context, what: FindingKind, given: Given): Promise<FindingOrProgress<T>> {
	if (!isApart(context)) return { answer: (await answerOf(context, what, given)) as T, asOf: null, progress: null };
	const key = keyOf(context, what, given);
	const [row] = await connection().db.select().from(findings).where(eq(findings.key, key));
	const fresh = row?.revision === context.organisation.revision;
	if (!fresh) ask(context, key, what, given);
	const progress = fresh ? null : { done: row?.done ?? 0, steps: row?.steps ?? 1 };
	if (row?.failed && row.answer === null) throw new Fault(503, "Couldn’t compute this", `${row.failed} It will be tried again shortly.`);
	return { answer: (row?.answer ?? null) as T | null, asOf: fresh || !row?.madeAt ? null : row.madeAt.toISOString(), progress };
}

/** The same for whoever waits for it, the API: always all that there is. */
export async function findingNow<T>(context: Context, what: FindingKind, given: Given): Promise<T> {
	if (!isApart(context)) return (await answerOf(context, what, given)) as T;
	const key = keyOf(context, what, given);
	const [row] = await connection().db.select().from(findings).where(eq(findings.key, key));
	if (row && row.answer !== null && row.revision === context.organisation.revision) return row.answer as T;
	return (await inThread("find", { what, given, personId: context.actor.person.id, key })) as T;
}

/** What a kind of finding answers, kept with the company while nothing changes. */
function answerOf(context: Context, what: FindingKind, given: Given, told?: (done: number) => void): Promise<unknown> {
	const { compute } = FINDING_KINDS[what];
	return derive(
		context.organisation.company,
		"findings",
		`${keyOf(context, what, given)} ${accountsKey(context.organisation)}`,
		async () => compute(context, given, told),
		200,
	);
}

/** Has it worked out by the thread, unless it is under way. */
function ask(context: Context, key: string, what: FindingKind, given: Given): void {
	if (underWay.has(key)) return;
	underWay.add(key);
	inThread("find", { what, given, personId: context.actor.person.id, key })
		.catch((error) => log.error({ what, error: String(error) }, "a finding couldn’t be worked out"))
		.finally(() => underWay.delete(key));
}

/** Has something worked out by the thread and waits for it; `false` where it was asked already, as `seen` tells. */
export async function askThread(context: Context, what: FindingKind, given: Given, seen: Set<string>): Promise<boolean> {
	const key = keyOf(context, what, given);
	if (seen.has(key)) return false;
	seen.add(key);
	await inThread("find", { what, given, personId: context.actor.person.id, key });
	return true;
}

export interface Asking {
	readonly what: FindingKind;
	readonly given: Given;
	readonly personId: string;
	readonly key: string;
}

/** Works something out in the thread that this is, tells how far it is, and keeps what was found. */
export async function findInThread({ what, given, personId, key }: Asking): Promise<unknown> {
	const context = await contextFor(personId);
	if (!context) return null;
	const { db } = connection();
	const { revision } = context.organisation;
	const steps = FINDING_KINDS[what].steps(given);
	const entry = { day: given.day, steps, done: 0, askedAt: sql`now()` };
	await db
		.insert(findings)
		.values({ key, ...entry })
		.onConflictDoUpdate({ target: findings.key, set: entry });
	let last = performance.now();
	try {
		const answer = await answerOf(context, what, given, (done) => {
			if (performance.now() - last < TELL) return;
			last = performance.now();
			void db
				.update(findings)
				.set({ done: Math.min(done, steps) })
				.where(eq(findings.key, key))
				.catch(() => undefined);
		});
		// Whoever was asked before and is done later knows less.
		await db
			.update(findings)
			.set({ answer, revision, madeAt: sql`now()`, done: steps, failed: null })
			.where(and(eq(findings.key, key), or(isNull(findings.revision), lte(findings.revision, revision))));
		return answer;
	} catch (error) {
		await db
			.update(findings)
			.set({ failed: error instanceof Error ? error.message : String(error) })
			.where(eq(findings.key, key));
		throw error;
	}
}

const KEPT_DAYS = 7;

/** Takes away what was found of days long ago. */
export async function pruneFindings(today: Day): Promise<number> {
	const gone = await connection()
		.db.delete(findings)
		.where(lt(findings.day, formatDay(today - KEPT_DAYS)))
		.returning({ key: findings.key });
	return gone.length;
}
