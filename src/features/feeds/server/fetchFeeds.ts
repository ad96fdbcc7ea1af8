import { and, eq, isNotNull, isNull, lte } from "drizzle-orm";
import { fileName } from "@/core/words/fileWords";
import { connection } from "@/data/db";
import { currentOrganisation } from "@/data/organisation/follow";
import { dataFeeds, feedRuns } from "@/data/schema";
import { clock } from "@/platform/clock";
import { newId } from "@/platform/ids";
import { unseal } from "@/platform/sealedText";
import { systemWrite } from "@/platform/write";
import { deliver, type Feed } from "./deliver";
import { fetchAddress } from "./fetchAddress";
import { nextTime } from "./rhythm";

/** Fetches the files of feeds whose time has come, each once; what is as it was before is left alone. Times are the server’s own: they pass where the day is held. */
export async function fetchFeeds(now = Date.now()): Promise<string[]> {
	const { db } = connection();
	const due = await db
		.select()
		.from(dataFeeds)
		.where(and(isNull(dataFeeds.endedAt), eq(dataFeeds.on, true), isNotNull(dataFeeds.url), lte(dataFeeds.nextAt, new Date(now))));
	if (!due.length) return [];
	const { zone } = (await currentOrganisation(db)).company.rules;
	const done: string[] = [];
	for (const feed of due) {
		const next = feed.rule ? nextTime(feed.rule, feed.madeAt.getTime(), now, zone) : null;
		// Its next time is set first: a file that ends the process isn’t fetched for ever.
		const fresh = await change(feed, { nextAt: next === null ? null : new Date(next), fetchedAt: new Date(now) });
		if (fresh) done.push(`${feed.name}: ${await fetchOne(feed)}`);
	}
	return done;
}

async function fetchOne(feed: Feed): Promise<string> {
	const header = feed.header === null ? null : unseal(feed.header);
	if (feed.header !== null && header === null) return tell(feed, "Its header was sealed with another key (PORCH_LAMP_SECRET); enter it again.");
	const found = await fetchAddress(feed.url as string, header, feed);
	if (found.kind === "same") return "as before";
	if (found.kind === "failed") return tell(feed, found.words);
	const run = await deliver(feed, { way: "address", name: fileName(found.name), bytes: found.bytes, sender: null });
	// What couldn’t be imported for a fault of ours is fetched again.
	if (run.state !== "failed") await change(feed, { etag: found.etag, lastModified: found.lastModified });
	return run.state;
}

/** Notes that nothing came, and why. */
async function tell(feed: Feed, words: string): Promise<string> {
	const at = new Date(clock(await currentOrganisation(connection().db)).instant);
	await systemWrite(async (tx) => {
		await tx
			.insert(feedRuns)
			.values({ id: newId("run"), feedId: feed.id, at, way: "address", name: new URL(feed.url ?? "https://x").hostname, state: "refused", words });
		return { result: null, touched: "nothing", audit: [] };
	});
	return words;
}

/** Changes what is kept of a feed’s fetching; false where another process took this turn. */
async function change(feed: Feed, set: Partial<typeof dataFeeds.$inferInsert>): Promise<boolean> {
	return systemWrite(async (tx) => {
		const same = set.fetchedAt ? (feed.fetchedAt ? eq(dataFeeds.fetchedAt, feed.fetchedAt) : isNull(dataFeeds.fetchedAt)) : undefined;
		const rows = await tx
			.update(dataFeeds)
			.set(set)
			.where(and(eq(dataFeeds.id, feed.id), same))
			.returning({ id: dataFeeds.id });
		return { result: rows.length > 0, touched: "nothing", audit: [] };
	});
}
