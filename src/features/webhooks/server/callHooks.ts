import { and, asc, eq, gt, lte, sql } from "drizzle-orm";
import { plural } from "@/core/words/grammar";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { type KeptTotals, reachState, taskChanges, tasks, webhookCalls, webhooks } from "@/data/schema";
import { roundsEndedSince } from "@/features/rounds";
import { clock } from "@/platform/clock";
import { overlapCursor, overlapRowCursor } from "@/platform/overlapCursor";
import { unseal } from "@/platform/sealedText";
import { systemWrite } from "@/platform/write";
import { callHook } from "./callHook";
import type { HookEvent } from "./hooks";

interface Seen {
	readonly task: string;
	readonly change: number;
}
const FIRST_PAUSE = 10_000;
const MOST_TRIES = 12;
const LOOK = 720522;
/** Rounds that ended so long ago, in ms, are told still: what is looked at twice is told once by its key. */
const BACK = 24 * 3_600_000;

/** Puts the calls into the queue that what was written since asks for. */
export async function queueCalls(): Promise<number> {
	const organisation = await currentOrganisation(connection().db);
	return systemWrite(async (tx: Tx) => {
		await tx.execute(sql`select pg_advisory_xact_lock(${LOOK})`);
		const hooks = await tx.select().from(webhooks).where(eq(webhooks.on, true));
		const [kept] = await tx.select().from(reachState).where(eq(reachState.key, "hooks"));
		const { rows } = await tx.execute(sql`select coalesce(max(id), 0) as change from task_changes`);
		const next: Seen = { task: overlapCursor("task"), change: overlapRowCursor(Number(rows[0]?.change ?? 0)) };
		await tx
			.insert(reachState)
			.values({ key: "hooks", value: next })
			.onConflictDoUpdate({ target: reachState.key, set: { value: next } });
		if (!kept || !hooks.length) return { result: 0, touched: "nothing", audit: [] };
		const seen = kept.value as Seen;
		const at = new Date(clock(organisation).instant);
		const events = [...(await taskEvents(tx, seen)), ...(await roundEvents(tx, at))];
		const calls = hooks.flatMap((hook) =>
			events
				.filter(({ event, since }) => hook.events.includes(event) && since >= hook.createdAt)
				.map(({ event, key, body }) => ({ hookId: hook.id, key, event, body: { event, at: at.toISOString(), ...body }, at })),
		);
		const made = calls.length ? await tx.insert(webhookCalls).values(calls).onConflictDoNothing().returning({ id: webhookCalls.id }) : [];
		return { result: made.length, touched: "nothing", audit: [] };
	});
}

interface Told {
	readonly event: HookEvent;
	/** what is told once by it */
	readonly key: string;
	readonly since: Date;
	readonly body: object;
}

/** Tasks that were given and changed since the last look. */
async function taskEvents(tx: Tx, seen: Seen): Promise<Told[]> {
	const given = await tx
		.select()
		.from(tasks)
		.where(and(gt(tasks.id, seen.task), sql`${tasks.id} like 'task-%'`));
	const changes = await tx
		.select({ change: taskChanges, task: tasks })
		.from(taskChanges)
		.innerJoin(tasks, eq(tasks.id, taskChanges.taskId))
		.where(gt(taskChanges.id, seen.change));
	return [
		...given.map((task): Told => ({ event: "task.given", key: `given ${task.id}`, since: task.createdAt, body: { task: plainTask(task) } })),
		...changes.map(
			({ change, task }): Told => ({
				event: "task.changed",
				key: `changed ${change.id}`,
				since: change.at,
				body: { change: { what: change.what, at: change.at.toISOString(), by: change.byId, before: change.before, why: change.why }, task: plainTask(task) },
			}),
		),
	];
}

/** Rounds that ended of late; walks aren’t told. */
async function roundEvents(tx: Tx, at: Date): Promise<Told[]> {
	const ended = await roundsEndedSince(tx, new Date(Date.now() - BACK));
	return ended
		.filter(({ round }) => round.kind === "round")
		.map(({ round, deals }) => ({
			event: "round.ended",
			key: `ended ${round.id} ${round.endedReally?.toISOString()}`,
			since: round.endedReally ?? at,
			body: {
				round: {
					id: round.id,
					name: round.name,
					startedAt: round.startedAt.toISOString(),
					endedAt: round.endedAt?.toISOString() ?? null,
					before: whole(round.before),
					after: round.after && whole(round.after),
					deals,
				},
			},
		}));
}

/** A round's totals without each person's part. */
const whole = ({ people: _, ...totals }: KeptTotals) => totals;

const plainTask = ({ id, dealId, title, assigneeId, team, dueOn, state, doneAt, flags, createdById, importance, note }: typeof tasks.$inferSelect) => ({
	id,
	dealId,
	title,
	assigneeId,
	team,
	dueOn,
	state,
	doneAt: doneAt?.toISOString() ?? null,
	flags,
	createdById,
	importance,
	note,
});

/** Makes the calls that wait, one at a time; what isn't taken is tried again later, at growing intervals. */
export async function makeCalls(): Promise<{ taken: number; failed: number }> {
	const done = { taken: 0, failed: 0 };
	/** An address that has just failed isn't asked again at once: others go on. */
	const down = new Set<string>();
	for (;;) {
		const fate = await makeOne(down);
		if (fate === "nothing") return done;
		done[fate]++;
	}
}

async function makeOne(down: Set<string>): Promise<"nothing" | "taken" | "failed"> {
	return connection().db.transaction(async (tx) => {
		const [found] = await tx
			.select({ call: webhookCalls, hook: webhooks })
			.from(webhookCalls)
			.innerJoin(webhooks, and(eq(webhooks.id, webhookCalls.hookId), eq(webhooks.on, true)))
			.where(and(eq(webhookCalls.state, "waiting"), lte(webhookCalls.nextAt, sql`now()`), down.size ? sql`${webhooks.id} not in ${[...down]}` : undefined))
			.orderBy(asc(webhookCalls.id))
			.limit(1)
			.for("update", { of: webhookCalls, skipLocked: true });
		if (!found) return "nothing";
		const { call, hook } = found;
		const secret = unseal(hook.secret);
		const { status, answer } =
			secret === null
				? { status: null, answer: "the secret can’t be read: PORCH_LAMP_SECRET has changed. Delete the webhook and create it again." }
				: await callHook(hook.url, secret, call.event, JSON.stringify(call.body), String(call.id));
		const taken = status !== null && status >= 200 && status < 300;
		const tries = call.tries + 1;
		if (!taken) down.add(hook.id);
		await tx
			.update(webhookCalls)
			.set({
				tries,
				status,
				answer: answer.replaceAll("\u0000", ""),
				state: taken ? "taken" : tries >= MOST_TRIES ? "given up" : "waiting",
				nextAt: new Date(Date.now() + FIRST_PAUSE * 2 ** Math.min(tries - 1, 12)),
			})
			.where(eq(webhookCalls.id, call.id));
		return taken ? "taken" : "failed";
	});
}

/** What is done every minute, and soon after each write. */
export async function callHooks(): Promise<string[]> {
	const queued = await queueCalls();
	const { taken, failed } = await makeCalls();
	return [queued && `${plural(queued, "call")} queued`, taken && `${plural(taken, "call")} taken`, failed && `${plural(failed, "call")} failed`].filter(
		(words): words is string => Boolean(words),
	);
}
