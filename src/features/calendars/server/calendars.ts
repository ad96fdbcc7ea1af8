import { randomBytes } from "node:crypto";
import { eq, inArray } from "drizzle-orm";
import { z } from "zod";
import { surveyOn } from "@/core/survey";
import { formatDay } from "@/core/time/day";
import { connection } from "@/data/db";
import { feeds, tasks } from "@/data/schema";
import { writeActivity } from "@/platform/activities";
import { command, lookup, query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { idSchema } from "@/platform/input";
import { accountName, dealName } from "@/platform/names";
import { reaches, reachOf } from "@/platform/reach";
import { reachDeal } from "@/platform/reachDeal";
import { tokenHash } from "@/platform/sessions";
import { type ReadCalendar, readCalendar } from "./ics";

/** Whether somebody has an address of their calendar, and since when. */
export const readFeed = query("calendars.feed", "ownSignIn", async (context: Context): Promise<{ since: string | null }> => {
	const [feed] = await connection().db.select().from(feeds).where(eq(feeds.personId, context.actor.person.id));
	return { since: feed?.madeAt.toISOString() ?? null };
});

/** Makes the secret address of one's calendar, or another one: the old one answers no more. It is shown once. */
export const renewFeed = command({
	name: "calendars.renew",
	right: "ownSignIn",
	secret: true,
	input: z.object({}),
	async run({ context, tx }) {
		const token = randomBytes(24).toString("base64url");
		const former = await tx.select({ id: feeds.personId }).from(feeds).where(eq(feeds.personId, context.actor.person.id));
		const row = { tokenHash: tokenHash(token), madeAt: new Date(context.now.instant) };
		await tx
			.insert(feeds)
			.values({ personId: context.actor.person.id, ...row })
			.onConflictDoUpdate({ target: feeds.personId, set: row });
		return {
			result: { path: `/calendar/${token}.ics` },
			touched: "nothing",
			audit: { action: "calendar address created", subject: context.actor.person.id, detail: { former: former.length ? "ended" : "none" } },
		};
	},
});

/** Takes the address of one's calendar away. */
export const removeFeed = command({
	name: "calendars.remove",
	right: "ownSignIn",
	input: z.object({}),
	async run({ context, tx }) {
		const gone = await tx.delete(feeds).where(eq(feeds.personId, context.actor.person.id)).returning({ made: feeds.madeAt });
		return {
			result: {},
			touched: "nothing",
			audit: gone.map(({ made }) => ({
				action: "calendar address deleted",
				subject: context.actor.person.id,
				detail: { madeOn: formatDay(context.organisation.company.rules.zone.dayOf(made.getTime())) },
			})),
		};
	},
});

const MOST_DEALS = 500;
const text = z.string().min(1, "The file is empty.").max(2_000_000, "A calendar file can have up to 2 MB.");
const looked = (context: Context, given: string): ReadCalendar => {
	const { zone } = context.organisation.company.rules;
	return readCalendar(given, formatDay(context.now.day), (ms) => formatDay(zone.dayOf(ms)));
};
/** What was taken in of a calendar is known by its UID. */
const taskId = (person: string, uid: string) => `ics-${tokenHash(`${person} ${uid}`).slice(0, 32)}`;

/** What a calendar's file holds, and which of it is here already. Nothing is written. */
export const previewCalendar = lookup({
	name: "calendars.preview",
	right: "assignTasks",
	input: z.object({ text }),
	async run({ context, input }) {
		const found = looked(context, input.text);
		const ids = found.items.map(({ uid }) => taskId(context.actor.person.id, uid));
		const there = ids.length ? await connection().db.select({ id: tasks.id }).from(tasks).where(inArray(tasks.id, ids)) : [];
		const known = new Set(there.map(({ id }) => id));
		const { organisation, now } = context;
		const reach = reachOf(organisation, context.actor);
		/** the open deals that something may be planned on, one's own first */
		const deals = surveyOn(organisation.company, now.day)
			.deals.flatMap((seen) =>
				seen?.status === "open" && reaches(reach, seen.owner)
					? [
							{
								id: organisation.deals[seen.deal]?.id ?? "",
								name: `${dealName(organisation, seen.deal)}, ${accountName(organisation, seen.deal)}`,
								own: seen.owner === context.actor.index,
							},
						]
					: [],
			)
			.sort((a, b) => Number(b.own) - Number(a.own) || a.name.localeCompare(b.name))
			.slice(0, MOST_DEALS)
			.map(({ id, name }) => ({ id, name }));
		return { deals, problems: found.problems, items: found.items.map((item, i) => ({ ...item, known: known.has(ids[i] ?? "") })) };
	},
});

/**
 * Takes entries of a calendar's file in: each as a task of one's own, about a deal or none, or as an activity that is
 * planned on a deal. One that was taken in before is left alone.
 */
export const takeCalendar = command({
	name: "calendars.take",
	right: "assignTasks",
	input: z.object({
		text,
		uids: z.array(z.string().max(300)).min(1, "Choose something first.").max(500),
		as: z.enum(["task", "activity"]),
		dealId: idSchema.nullable().default(null),
	}),
	async run({ context, input, tx }) {
		const { organisation, actor, now } = context;
		if (input.dealId !== null) reachDeal(context, input.dealId);
		if (input.as === "activity" && input.dealId === null) throw new Fault(422, "No deal", "Choose the deal on which this is planned.");
		const today = formatDay(now.day);
		const wanted = new Set(input.uids);
		const items = looked(context, input.text).items.filter(({ uid }) => wanted.has(uid));
		let made = 0;
		for (const item of items) {
			if (item.day < today) continue;
			if (input.as === "activity") {
				const kind = organisation.activityKinds.find((one) => /meet|visit/i.test(one)) ?? organisation.activityKinds[0] ?? "meeting";
				if (item.day > today) {
					await writeActivity(tx, context, {
						dealId: input.dealId as string,
						kind,
						direction: "both",
						subject: item.title,
						contactIds: [],
						day: item.day,
						body: null,
					});
					made++;
				}
				continue;
			}
			const rows = await tx
				.insert(tasks)
				.values({
					id: taskId(actor.person.id, item.uid),
					dealId: input.dealId,
					title: item.title,
					assigneeId: actor.person.id,
					dueOn: item.day,
					createdAt: new Date(now.instant),
					state: "open",
					flags: [],
					createdById: actor.person.id,
				})
				.onConflictDoNothing()
				.returning({ id: tasks.id });
			made += rows.length;
		}
		return {
			result: { made, left: input.uids.length - made },
			touched: input.dealId ? [input.dealId] : "settings",
			audit: made ? { action: "calendar imported", subject: input.dealId, detail: { made, as: input.as } } : [],
		};
	},
});
