import { and, asc, desc, eq, gte, inArray, isNotNull, lt, ne } from "drizzle-orm";
import { type Day, formatDay, parseDay } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { connection } from "@/data/db";
import { answersIn, outbox, taskChanges, tasks } from "@/data/schema";
import type { Context } from "@/platform/context";
import { dealName, personName } from "@/platform/names";
import { dealPath, taskPath } from "@/platform/paths";
import { reachesToday } from "@/platform/reachDeal";
import type { AllOfPart, LeadItem } from "./leadView";
import { readMentions } from "./readMentions";

const dayWords = (iso: string | null) => (iso ? shortDay(parseDay(iso) ?? 0) : "no date");
const partOf = (key: string, heading: string, items: readonly LeadItem[], path: string): AllOfPart => ({
	key,
	heading,
	items,
	path,
});

/** Open tasks that were handed back to the person, with why. */
export async function handedBackPart({ organisation, actor }: Context): Promise<AllOfPart> {
	const rows = await connection()
		.db.select({ id: tasks.id, title: tasks.title, dealId: tasks.dealId, byId: taskChanges.byId, why: taskChanges.why })
		.from(taskChanges)
		.innerJoin(tasks, eq(tasks.id, taskChanges.taskId))
		.where(and(eq(taskChanges.what, "handed back"), eq(tasks.assigneeId, actor.person.id), eq(tasks.state, "open")))
		.orderBy(desc(taskChanges.at), desc(taskChanges.id));
	// The newest reason of each.
	const newest = [...new Map([...rows].reverse().map((row) => [row.id, row])).values()].reverse();
	const items = newest.map(({ id, title, dealId, byId, why }) => ({
		id,
		words: title,
		about: `${personName(organisation, byId) ?? "Somebody"}${why ? `: ${why}` : ""}`,
		path: taskPath(id, dealId),
		level: null,
		amount: null,
	}));
	return partOf("back", "Handed back to me", items, "/tasks");
}

/** Open tasks the person gave to others that are late, the longest first. */
export async function latePart({ organisation, actor, now }: Context): Promise<AllOfPart> {
	const rows = await connection()
		.db.select({ id: tasks.id, title: tasks.title, dealId: tasks.dealId, who: tasks.assigneeId, team: tasks.team, due: tasks.dueOn })
		.from(tasks)
		.where(and(eq(tasks.createdById, actor.person.id), eq(tasks.state, "open"), lt(tasks.dueOn, formatDay(now.day)), ne(tasks.assigneeId, actor.person.id)))
		.orderBy(asc(tasks.dueOn), asc(tasks.id));
	const items = rows.map(({ id, title, dealId, who, team, due }) => ({
		id,
		words: title,
		about: `${personName(organisation, who) ?? `anyone of ${team}`}, due ${dayWords(due)}`,
		path: taskPath(id, dealId),
		level: null,
		amount: null,
	}));
	return partOf("late", "Tasks I gave that are late", items, "/tasks");
}

/** Replies to mails of the person that were logged since the end of a day, on deals they reach. */
export async function repliesPart(context: Context, since: Day): Promise<AllOfPart> {
	const { organisation, actor } = context;
	const from = new Date(organisation.company.rules.zone.instantAt(since + 1, 0));
	const rows = await connection()
		.db.select({ id: answersIn.messageId, dealId: outbox.dealId, subject: outbox.subject })
		.from(answersIn)
		.innerJoin(outbox, eq(outbox.id, answersIn.outboxId))
		.where(and(inArray(answersIn.fate, ["logged"]), eq(outbox.personId, actor.person.id), isNotNull(outbox.dealId), gte(answersIn.at, from)))
		.orderBy(desc(answersIn.at));
	const items = rows.flatMap(({ id, dealId, subject }) =>
		dealId && reachesToday(context, dealId)
			? [
					{
						id,
						words: dealName(organisation, organisation.dealIndex.get(dealId) ?? -1),
						about: `reply to: ${subject}`,
						path: dealPath(dealId),
						level: null,
						amount: null,
					},
				]
			: [],
	);
	return partOf("replies", "Replies to my mails", items, "/desk");
}

/** Notes of the last weeks that call on the person. */
export async function mentionsPart(context: Context, day: Day): Promise<AllOfPart> {
	const items = (await readMentions(context, day)).map(({ id, dealId, deal, by, day: on, body }) => ({
		id,
		words: deal,
		about: `${by}, ${dayWords(on)}: ${body}`,
		path: dealPath(dealId),
		level: null,
		amount: null,
	}));
	return partOf("mentions", "Mentions of me", items, "/desk");
}
