import { and, eq, lt } from "drizzle-orm";
import { connection } from "@/data/db";
import { feedRuns } from "@/data/schema";
import { instantNow } from "@/platform/clock";
import { systemWrite } from "@/platform/command";

/** A file that has been read for so long, ms, is read by nobody any more. */
const LONGEST = 3_600_000;

/** Says of files whose reading was cut off, by a stop of the program for instance, that they are to be sent again. */
export async function endStale(): Promise<string[]> {
	const before = new Date((await instantNow(connection().db)) - LONGEST);
	return systemWrite(async (tx) => {
		const ended = await tx
			.update(feedRuns)
			.set({ state: "failed", words: "The program stopped while it read this file. Nothing was imported; send it again." })
			.where(and(eq(feedRuns.state, "reading"), lt(feedRuns.at, before)))
			.returning({ id: feedRuns.id });
		return { result: ended.length ? [`${ended.length} files that were cut off`] : [], touched: "nothing", audit: [] };
	});
}
