import { and, eq, gte, isNotNull, or } from "drizzle-orm";
import { worksOn } from "@/core/people/person";
import { surveyOn } from "@/core/survey";
import { connection } from "@/data/db";
import { isOneOf } from "@/data/queries/isOneOf";
import { activities, feeds, tasks } from "@/data/schema";
import { seesTask } from "@/features/tasks";
import { address } from "@/platform/address";
import { query } from "@/platform/command";
import { type Context, contextFor } from "@/platform/context";
import { notFound } from "@/platform/fault";
import { accountName, dealName } from "@/platform/names";
import { reachDeal } from "@/platform/reachDeal";
import { tokenHash } from "@/platform/sessions";
import { calendarText, type Entry } from "./ics";

/** Planned activities that lie further back aren't shown any more. */
const DAYS_BACK = 30;

function about(context: Context, dealId: string | null): { on: string; path: string } {
	const deal = context.organisation.dealIndex.get(dealId ?? "");
	if (deal === undefined) return { on: "", path: "/tasks" };
	return { on: `${dealName(context.organisation, deal)}, ${accountName(context.organisation, deal)}`, path: `/deals/${encodeURIComponent(dealId ?? "")}` };
}

type Task = Pick<typeof tasks.$inferSelect, "id" | "title" | "dueOn" | "dealId" | "createdAt" | "checklist">;
function taskEntry(context: Context, task: Task): Entry | null {
	if (task.dueOn === null) return null;
	const { on, path } = about(context, task.dealId);
	return {
		uid: `${task.id}@porch-lamp.example`,
		title: task.title,
		day: task.dueOn,
		at: null,
		words: [on, ...task.checklist.map(({ words, done }) => `${done ? "done: " : "- "}${words}`)].filter(Boolean).join("\n"),
		url: address(`${path}?task=${encodeURIComponent(task.id)}`),
		stamp: task.createdAt,
	};
}

type Planned = Pick<typeof activities.$inferSelect, "id" | "subject" | "kind" | "at" | "dealId" | "recordedAt">;
function activityEntry(context: Context, activity: Planned): Entry {
	const { on, path } = about(context, activity.dealId);
	return {
		uid: `${activity.id}@porch-lamp.example`,
		title: activity.subject ?? activity.kind,
		day: null,
		at: activity.at,
		words: on,
		url: address(path),
		stamp: activity.recordedAt ?? activity.at,
	};
}

/** The calendar of somebody: their open tasks on the days they are due, and what is planned on their deals. Null for a token that nobody has. */
export async function feedOf(token: string): Promise<string | null> {
	const { db } = connection();
	const [feed] = await db
		.select()
		.from(feeds)
		.where(eq(feeds.tokenHash, tokenHash(token)));
	const context = feed ? await contextFor(feed.personId) : null;
	if (!context || !worksOn(context.actor.person, context.now.day)) return null;
	const { organisation, actor, now } = context;
	const own = surveyOn(organisation.company, now.day).deals.flatMap((seen) =>
		seen?.owner === actor.index && seen.status === "open" ? (organisation.deals[seen.deal]?.id ?? []) : [],
	);
	const open = await db
		.select()
		.from(tasks)
		.where(and(eq(tasks.assigneeId, actor.person.id), eq(tasks.state, "open"), isNotNull(tasks.dueOn)))
		.orderBy(tasks.dueOn, tasks.id);
	const planned = await db
		.select()
		.from(activities)
		.where(
			and(
				eq(activities.state, "planned"),
				gte(activities.at, new Date(now.instant - DAYS_BACK * 86_400_000)),
				or(eq(activities.byId, actor.person.id), own.length ? isOneOf(activities.dealId, own) : undefined),
			),
		)
		.orderBy(activities.at, activities.id);
	return calendarText(`Porch Lamp, ${actor.person.name}`, [
		...open.flatMap((task) => taskEntry(context, task) ?? []),
		...planned.map((one) => activityEntry(context, one)),
	]);
}

/** One task as a calendar of its own. Throws 404 for one that isn't seen, or has no day. */
export const taskCalendar = query("calendars.task", "readTasks", async (context: Context, id: string): Promise<string> => {
	const [task] = await connection().db.select().from(tasks).where(eq(tasks.id, id));
	const entry = task && seesTask(context, task) ? taskEntry(context, task) : null;
	if (!entry) throw notFound("task with a day", id);
	return calendarText("Porch Lamp", [entry]);
});

/** One activity as a calendar of its own. Throws 404 for one that isn't seen. */
export const activityCalendar = query("calendars.activity", "readDeals", async (context: Context, id: string): Promise<string> => {
	const [activity] = await connection().db.select().from(activities).where(eq(activities.id, id));
	if (!activity?.dealId) throw notFound("activity", id);
	reachDeal(context, activity.dealId);
	return calendarText("Porch Lamp", [activityEntry(context, activity)]);
});
