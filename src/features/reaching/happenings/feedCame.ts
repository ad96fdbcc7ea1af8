import { eq, gt } from "drizzle-orm";
import { connection } from "@/data/db";
import { dataFeeds, feedRuns } from "@/data/schema";
import { happening, type Scan } from "./happening";

const BACK = 24 * 3_600_000;

/** What came through feeds lately, for each person who is told of it. */
export async function runsLately({ context: { now } }: Pick<Scan, "context">) {
	const rows = await connection()
		.db.select({ run: feedRuns, feed: dataFeeds })
		.from(feedRuns)
		.innerJoin(dataFeeds, eq(dataFeeds.id, feedRuns.feedId))
		.where(gt(feedRuns.at, new Date(now.instant - BACK)));
	return rows.flatMap(({ run, feed }) => [...new Set([feed.byId, ...feed.tell])].map((personId) => ({ personId, run, feed })));
}

/** A file was imported by itself. */
export const feedCame = happening({
	kind: "feed-came",
	label: "a file of a feed was imported",
	usual: { onScreen: true, mail: "digest" },
	async find(scan) {
		const rows = await runsLately(scan);
		return rows
			.filter(({ run }) => run.state === "imported")
			.map(({ personId, run, feed }) => ({
				personId,
				key: run.id,
				facts: { feed: feed.name, file: run.name, words: run.words },
				path: run.day && run.before ? `/changes?due=any&seen=${run.day}&against=${run.before}` : "/setup?place=feeds",
			}));
	},
	say: ({ feed, file, words }) => `${feed}: ${file} was imported. ${words}`,
});
