import { and, between, eq, gt, inArray, isNotNull, or, sql } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { connection, type Tx } from "@/data/db";
import { NEWS_CHANNEL } from "@/data/live";
import { currentOrganisation } from "@/data/organisation/follow";
import { isOneOf } from "@/data/queries/isOneOf";
import { activities, news, notes, reachState, taskChanges, tasks, wishes } from "@/data/schema";
import { takeQuiet } from "@/data/store/quiet";
import { clock } from "@/platform/clock";
import type { Context } from "@/platform/context";
import { overlapCursor, overlapRowCursor } from "@/platform/overlapCursor";
import { reaches, reachOf } from "@/platform/reach";
import { systemWrite } from "@/platform/write";
import { HAPPENINGS } from "../happenings";
import type { Found, Happening, Mail, Scan } from "../happenings/happening";
import { sendTogether, type ToSend } from "./sendTogether";

/** How far the last look came. */
interface Seen {
	readonly day: string;
	readonly task: string;
	readonly change: number;
	readonly note: string;
}

const LOOK = 720521;
/** Longer ago nothing is told any more: somebody who starts the program after a holiday isn't flooded. */
const DAYS_BACK = 7;

/**
 * Looks for what has happened since the last look, and tells everybody what they wish to hear: on screen, and by mails
 * that are written in the same transaction. Doing it again tells nothing twice. The first look of all only begins.
 */
export async function lookForNews(): Promise<{ told: number; mails: number }> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	if (!organisation.dealIndex.size && !organisation.people.length) return { told: 0, mails: 0 };
	return systemWrite(async (tx) => {
		await tx.execute(sql`select pg_advisory_xact_lock(${LOOK})`);
		const result = await look(tx, organisation);
		return { result, touched: "nothing", audit: [] };
	});
}

async function look(tx: Tx, organisation: Context["organisation"]): Promise<{ told: number; mails: number }> {
	const now = clock(organisation);
	const [kept] = await tx.select().from(reachState).where(eq(reachState.key, "seen"));
	const newest = await newestOf(tx);
	const next: Seen = { ...newest, day: formatDay(now.day) };
	const save = () =>
		tx
			.insert(reachState)
			.values({ key: "seen", value: next })
			.onConflictDoUpdate({ target: reachState.key, set: { value: next } });
	const quiet = await takeQuiet(tx);
	if (!kept) {
		await save();
		return { told: 0, mails: 0 };
	}
	const seen = kept.value as Seen;
	const quietDeals = quiet?.deals ? new Set(quiet.deals) : null;
	// An import brings the past: what it says is noted as told, and nobody hears of it. What is about no deal came with it, too.
	const isQuiet = ({ dealId }: Found) => quiet !== null && (quietDeals === null || !dealId || quietDeals.has(dealId));
	const scan = await scanOf(tx, { organisation, now }, seen);
	let told = 0;
	const toSend: ToSend[] = [];
	for (const kind of HAPPENINGS) {
		for (const one of await kind.find(scan)) {
			for (const to of listeners(scan, kind, one)) {
				const done = await tell(tx, scan, kind, one, isQuiet(one) ? { ...to, silent: true } : to);
				if (done.told) told++;
				if (done.send) toSend.push(done.send);
			}
		}
	}
	const mails = await sendTogether(tx, scan, toSend);
	await save();
	return { told, mails };
}

/** Where the next look begins; what is looked at twice is told once by its key. */
async function newestOf(tx: Tx): Promise<Omit<Seen, "day">> {
	const { rows } = await tx.execute(sql`select coalesce(max(id), 0) as change from task_changes`);
	return { task: overlapCursor("task"), change: overlapRowCursor(Number(rows[0]?.change ?? 0)), note: overlapCursor("note") };
}

async function scanOf(tx: Tx, context: Scan["context"], seen: Seen): Promise<Scan> {
	const { organisation, now } = context;
	const { company } = organisation;
	const today = now.day;
	// What happens in the course of a day is held against the end of the day before; after a break against the day last looked at.
	const last = parseDay(seen.day) ?? today;
	const before: Day = Math.max(today - DAYS_BACK, Math.min(last, today - 1));
	const changes = await tx
		.select({ change: taskChanges, task: tasks })
		.from(taskChanges)
		.innerJoin(tasks, eq(tasks.id, taskChanges.taskId))
		.where(gt(taskChanges.id, seen.change));
	const { open, inbound } = await openTasks(tx, before, today);
	const wished = await tx.select().from(wishes).orderBy(wishes.of);
	return {
		context,
		today,
		before,
		is: surveyOn(company, today),
		was: surveyOn(company, before),
		given: await tx
			.select()
			.from(tasks)
			.where(and(gt(tasks.id, seen.task), sql`${tasks.id} like 'task-%'`, eq(tasks.state, "open"))),
		changes: changes.map(({ change, task }) => ({ ...change, task })),
		notes: await tx
			.select()
			.from(notes)
			.where(and(gt(notes.id, seen.note), sql`${notes.id} like 'note-%'`)),
		open,
		answeredSince: (dealId, since) => inbound.some((one) => one.dealId === dealId && one.at > since),
		as: (personId) => {
			const index = organisation.personIndex.get(personId);
			const person = index === undefined ? undefined : organisation.people[index];
			return person && index !== undefined && worksOn(person, today) ? { ...context, actor: { person, index } } : null;
		},
		wishers: (kind) => wished.filter((one) => one.kind === kind && (one.onScreen || one.mail !== "never")).map(({ personId, of }) => ({ personId, of })),
		wishOf: (personId, kind, of = "") => wished.find((one) => one.personId === personId && one.kind === kind && one.of === of) ?? null,
	};
}

/** Open tasks that are due or to be reminded of, and when the deals of those that wait for an answer were written to or spoken with. */
async function openTasks(tx: Tx, before: Day, today: Day) {
	const [from, to] = [formatDay(before), formatDay(today)];
	const open = await tx
		.select()
		.from(tasks)
		.where(and(eq(tasks.state, "open"), isNotNull(tasks.assigneeId), or(between(tasks.dueOn, from, to), between(tasks.remindOn, from, to))));
	const watched = open.filter(({ remindUnlessAnswered, remindOn, dealId }) => remindUnlessAnswered && dealId && remindOn && remindOn <= to);
	const inbound = watched.length
		? await tx
				.select({ dealId: activities.dealId, at: activities.at })
				.from(activities)
				.where(
					and(
						isOneOf(activities.dealId, [...new Set(watched.flatMap(({ dealId }) => dealId ?? []))]),
						inArray(activities.direction, ["in", "both"]),
						eq(activities.state, "done"),
					),
				)
		: [];
	return { open, inbound };
}

interface To {
	readonly personId: string;
	readonly email: string | null;
	readonly onScreen: boolean;
	readonly mail: Mail;
	/** it is noted as told, and nobody hears of it */
	readonly silent?: boolean;
}

/** Who is told of something: whom it is for, or all who wish to hear of it and reach its deal. */
function listeners({ context, as, wishers }: Scan, kind: Happening, found: Found): To[] {
	const { organisation } = context;
	const wish = wishers(kind.kind);
	const ids = found.personId ? [found.personId] : [...new Set(wish.map(({ personId }) => personId))];
	return ids.flatMap((personId) => {
		const person = as(personId);
		if (!person) return [];
		const deal = found.dealId ? organisation.dealIndex.get(found.dealId) : undefined;
		const owner = deal === undefined ? undefined : surveyOn(organisation.company, context.now.day).deals[deal]?.owner;
		// A task may be given on a deal that isn't one's own; all else is told within one's reach alone.
		if (!found.personId && (owner === undefined || !reaches(reachOf(organisation, person.actor), owner))) return [];
		return [{ personId, email: person.actor.person.email, ...kind.usual }];
	});
}

async function tell(tx: Tx, { context, wishOf }: Scan, kind: Happening, found: Found, to: To): Promise<{ told: boolean; send?: ToSend }> {
	const wish = wishOf(to.personId, kind.kind, found.of);
	const how: { onScreen: boolean; mail: Mail } = to.silent
		? { onScreen: false, mail: "never" }
		: wish
			? { onScreen: wish.onScreen, mail: wish.mail as Mail }
			: { onScreen: to.onScreen, mail: to.mail };
	if (!to.silent && !how.onScreen && how.mail === "never") return { told: false };
	const { personId, key, facts, path, dealId = null, taskId = null } = { ...found, personId: to.personId };
	const [made] = await tx
		.insert(news)
		.values({ personId, kind: kind.kind, key, facts, path, dealId, taskId, at: new Date(context.now.instant), ...how })
		.onConflictDoNothing()
		.returning({ id: news.id });
	if (!made || to.silent) return { told: false };
	if (how.onScreen) await tx.execute(sql`select pg_notify(${NEWS_CHANNEL}, ${personId})`);
	if (how.mail !== "now" || !to.email) return { told: true };
	return { told: true, send: { news: made.id, kind, found, personId, address: to.email } };
}
