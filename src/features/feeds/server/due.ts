import { and, eq, gt, isNull } from "drizzle-orm";
import { formatDay, weekday } from "@/core/time/day";
import { shortDay } from "@/core/time/words";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { dataFeeds, type FeedDue, feedRuns } from "@/data/schema";
import { clock } from "@/platform/clock";
import { newId } from "@/platform/ids";
import { systemWrite } from "@/platform/write";

const WEEK = 7;

/** The last day and time, up to an instant, at which a file was due: days back from a day of the zone. Null within the first week of none. */
export function lastDue({ days, at }: FeedDue, day: number, time: string): { readonly day: number; readonly before: number } | null {
	const isDue = (one: number) => days.includes(((weekday(one) + 6) % WEEK) + 1);
	const past = Array.from({ length: 2 * WEEK + 1 }, (_, back) => day - back).filter((one) => isDue(one) && (one < day || at <= time));
	const [last, before] = past;
	return last === undefined ? null : { day: last, before: before ?? last - WEEK };
}

/** Notes for each feed whose file hasn’t come by its hour that it is missing, once. A file that came since the hour before is in time. */
export async function missFiles(): Promise<string[]> {
	const { db } = connection();
	const organisation = await currentOrganisation(db);
	const now = clock(organisation);
	const { zone } = organisation.company.rules;
	const minutes = Math.floor((now.instant - zone.instantAt(now.day, 0)) / 60_000);
	const time = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
	const feeds = await db
		.select()
		.from(dataFeeds)
		.where(and(isNull(dataFeeds.endedAt), eq(dataFeeds.on, true)));
	const missed: string[] = [];
	for (const feed of feeds) {
		const due = feed.due && lastDue(feed.due, now.day, time);
		if (!feed.due || !due) continue;
		const [hours = 0, mins = 0] = feed.due.at.split(":").map(Number);
		const since = new Date(zone.instantAt(due.before, (hours * 60 + mins) * 60_000));
		const until = new Date(zone.instantAt(due.day, (hours * 60 + mins) * 60_000));
		// It can’t be late before it was set up.
		if (feed.madeAt > until) continue;
		const came = await db
			.select({ id: feedRuns.id })
			.from(feedRuns)
			.where(and(eq(feedRuns.feedId, feed.id), gt(feedRuns.at, since), gt(feedRuns.way, "")))
			.limit(1);
		if (came.length) continue;
		const name = `${shortDay(due.day)}, ${feed.due.at}`;
		const fresh = await systemWrite(async (tx) => {
			const rows = await tx
				.insert(feedRuns)
				.values({ id: newId("run"), feedId: feed.id, at: new Date(now.instant), way: "", name, state: "missing", day: formatDay(due.day) })
				.onConflictDoNothing()
				.returning({ id: feedRuns.id });
			return { result: rows.length > 0, touched: "nothing", audit: [] };
		});
		if (fresh) missed.push(feed.name);
	}
	return missed;
}
