import { and, eq, lt, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { feedRuns } from "@/data/schema";
import { instantNow } from "@/platform/clock";
import { systemWrite } from "@/platform/write";

/** A file that has been read for so long, ms, is read by nobody any more. */
const LONGEST = 3_600_000;

/** So long a file waits for an answer, ms, and is kept for it. */
const WAITS = 90 * 86_400_000;

/**
 * Says of files whose reading was cut off, by a stop of the program for instance, that they are to be sent again; of those that
 * waited, that they were imported by hand, or that nobody answered. What they held is forgotten then.
 */
export async function endStale(): Promise<string[]> {
	const now = await instantNow(connection().db);
	const before = new Date(now - LONGEST);
	return systemWrite(async (tx) => {
		await tx
			.update(feedRuns)
			.set({ state: "imported", words: "Imported by hand." })
			.where(and(eq(feedRuns.state, "waits"), sql`exists (select from weekly_files f where f.digest = ${feedRuns.sha256})`));
		await tx
			.update(feedRuns)
			.set({ state: "refused", words: "Nobody answered within 90 days; it is kept no longer." })
			.where(and(eq(feedRuns.state, "waits"), lt(feedRuns.at, new Date(now - WAITS))));
		const ended = await tx
			.update(feedRuns)
			.set({ state: "failed", words: "The program stopped while it read this file. Nothing was imported; send it again." })
			.where(and(eq(feedRuns.state, "reading"), lt(feedRuns.at, before)))
			.returning({ id: feedRuns.id });
		return { result: ended.length ? [`${ended.length} files that were cut off`] : [], touched: "nothing", audit: [] };
	});
}
