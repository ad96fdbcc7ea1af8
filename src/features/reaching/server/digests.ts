import { and, eq, isNull } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { type Day, formatDay, weekday } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { plural } from "@/core/words/grammar";
import { connection, type Tx } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { digestTimes, news, outbox } from "@/data/schema";
import { readChanges } from "@/features/changes";
import { readDeals } from "@/features/deals";
import { readPeriod } from "@/features/period";
import { readOwnTasks, readTaskPage } from "@/features/tasks";
import { clock } from "@/platform/clock";
import type { Context } from "@/platform/context";
import { isDueAt, minutesOfDay } from "@/platform/dueTime";
import { resolveViewpoint } from "@/platform/viewpoint";
import { systemWrite } from "@/platform/write";
import { dealPath, taskPath } from "../happenings/happening";
import { type Part, type Written, written } from "./letters";
import { newsWords } from "./newsWords";
import { post } from "./post";

/** When somebody gets their digests where they have chosen nothing. */
export const usualTimes = (role: string): { daily: string | null; weekly: string | null } => ({
	daily: role === "rep" ? "07:30" : null,
	weekly: role === "manager" ? "1 07:30" : null,
});

const SHOWN = 12;

/** Writes the digests that are due by now, each once. Gives how many. */
export async function writeDigests(): Promise<number> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const now = clock(organisation);
	const { calendar } = organisation.company.rules;
	const minutes = minutesOfDay({ organisation }, now);
	const times = new Map((await db.select().from(digestTimes)).map((row) => [row.personId, row]));
	let count = 0;
	for (const [index, person] of organisation.people.entries()) {
		if (!person.email || !worksOn(person, now.day)) continue;
		const { daily, weekly } = times.get(person.id) ?? usualTimes(person.role);
		const context: Context = { organisation, now, actor: { person, index } };
		const [day = "", at = ""] = weekly?.split(" ") ?? [];
		const due = [
			...(daily && calendar.isWorking(now.day) && isDueAt(daily, minutes) ? [{ key: `daily ${person.id} ${formatDay(now.day)}`, letter: dailyLetter }] : []),
			...(weekly && weekdayOf(now.day) === Number(day) && isDueAt(at, minutes)
				? [{ key: `weekly ${person.id} ${formatDay(now.day)}`, letter: weeklyLetter }]
				: []),
		];
		for (const { key, letter } of due) {
			const [there] = await db.select({ id: outbox.id }).from(outbox).where(eq(outbox.key, key));
			if (!there && (await writeOne(context, key, letter))) count++;
		}
	}
	return count;
}

/** Monday is 1. */
const weekdayOf = (day: Day) => weekday(day) || 7;

/** Writes a digest and marks what it tells as told, in one transaction. */
async function writeOne(context: Context, key: string, letter: (context: Context, told: readonly Told[]) => Promise<Written>): Promise<boolean> {
	const { person } = context.actor;
	return systemWrite(async (tx: Tx) => {
		const told = await tx
			.select()
			.from(news)
			.where(and(eq(news.personId, person.id), eq(news.mail, "digest"), isNull(news.digestedAt)))
			.orderBy(news.id);
		const at = new Date(context.now.instant);
		const done = await post(tx, { key, personId: person.id, address: person.email ?? "", dealId: null, createdAt: at, ...(await letter(context, told)) });
		if (done)
			await tx
				.update(news)
				.set({ digestedAt: at })
				.where(and(eq(news.personId, person.id), eq(news.mail, "digest"), isNull(news.digestedAt)));
		return { result: done, touched: "nothing", audit: [] };
	});
}

type Told = Pick<typeof news.$inferSelect, "kind" | "facts" | "path">;

const happened = (told: readonly Told[]): Part => ({
	heading: "News",
	lines: told.map(({ kind, facts, path }) => ({ words: newsWords(kind, facts), path })),
});
const greeting = ({ actor, now }: Context) => `${actor.person.name.split(" ")[0]}, this is ${shortDay(now.day)}.`;

/** A rep's morning: what is due, what is lit and why. */
async function dailyLetter(context: Context, told: readonly Told[]): Promise<Written> {
	const { now, actor } = context;
	const today = formatDay(now.day);
	const open = (await readOwnTasks(context, now.day)).own.filter(({ state }) => state === "open");
	const late = open.filter(({ overdue }) => overdue);
	const due = open.filter(({ dueOn, overdue }) => !overdue && (dueOn ?? today) <= today);
	const { rows } = readDeals(context, resolveViewpoint(context, { whose: `person:${actor.person.id}`, due: "any" }));
	const lit = rows.filter(({ level }) => level === "act").sort((a, b) => b.score - a.score);
	const line = (task: (typeof open)[number]) => ({ words: `${task.title}${task.dealId ? ` (${task.deal})` : ""}`, path: taskPath(task.id, task.dealId) });
	const parts: Part[] = [
		{ heading: "Overdue", lines: late.slice(0, SHOWN).map(line) },
		{ heading: "Due today", lines: due.slice(0, SHOWN).map(line) },
		{ heading: "Deals at act", lines: lit.slice(0, SHOWN).map(({ id, name, flags }) => ({ words: `${name}: ${flags[0]?.reason ?? ""}`, path: dealPath(id) })) },
		happened(told),
	];
	const finding = due.length || late.length ? `${plural(due.length, "task")} due today, ${late.length} overdue` : "nothing is due today";
	return written(`Your day: ${finding}`, `${greeting(context)} ${finding[0]?.toUpperCase()}${finding.slice(1)}.`, parts);
}

/** A manager's week: where the period stands, what moved, what is late. */
async function weeklyLetter(context: Context, told: readonly Told[]): Promise<Written> {
	const viewpoint = resolveViewpoint(context, {});
	const view = await readPeriod(context, viewpoint);
	const changes = readChanges(context, viewpoint, { limit: 1 });
	const late = await readTaskPage(context, viewpoint.whose.scope, context.now.day, { view: "late", limit: SHOWN });
	const headline = view?.headline ?? "No period to report on";
	const parts: Part[] = [
		{ heading: "What changed", lines: changes ? [{ words: changes.headline, path: "/changes" }] : [] },
		{
			heading: "The biggest open deals",
			lines: (view?.biggest ?? [])
				.slice(0, 5)
				.map(({ id, name, note, owner }) => ({ words: `${name}, ${owner}${note ? `: ${note}` : ""}`, path: dealPath(id) })),
		},
		{
			heading: `Late tasks: ${late.counts.late}`,
			lines: late.rows.map((task) => ({
				words: `${task.assignee}: ${task.title}${task.dealId ? ` (${task.deal})` : ""}`,
				path: taskPath(task.id, task.dealId),
			})),
		},
		happened(told),
	];
	return written(`Your week: ${headline}`, `${greeting(context)} ${headline}. ${view?.beside ?? ""}`.trim(), parts);
}
