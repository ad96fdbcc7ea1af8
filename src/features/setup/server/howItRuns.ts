import { desc, sql } from "drizzle-orm";
import { connection } from "@/data/db";
import { imports } from "@/data/schema";
import { query } from "@/platform/command";
import type { Context } from "@/platform/context";
import { readRunning } from "@/platform/running";

const LARGEST = 6;

/** How the program runs, for those who look after it: what waits, what failed, how large it is, since when. */
export const howItRuns = query("setup.running", "readRunning", async (context: Context) => {
	const { db } = connection();
	const [running, largest, last] = await Promise.all([
		readRunning(db),
		db.execute(
			sql`select c.relname as name, pg_total_relation_size(c.oid) as bytes from pg_class c join pg_namespace n on n.oid = c.relnamespace
				where n.nspname = 'public' and c.relkind = 'r' order by bytes desc limit ${LARGEST}`,
		),
		db.select({ state: imports.state, at: imports.startedAt }).from(imports).orderBy(desc(imports.startedAt)).limit(1),
	]);
	return {
		...running,
		since: new Date(Date.now() - process.uptime() * 1000).toISOString(),
		deals: context.organisation.dealIndex.size,
		people: context.organisation.people.length,
		largest: largest.rows.map(({ name, bytes }) => ({ name: String(name), bytes: Number(bytes) })),
		lastImport: last[0] ? { state: last[0].state, at: last[0].at.toISOString() } : null,
	};
});
export type RunningView = Awaited<ReturnType<typeof howItRuns>>;
