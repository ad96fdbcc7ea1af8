import { sql } from "drizzle-orm";
import { connection, type Db } from "@/data/db";
import { keptRevision } from "@/data/organisation/follow";
import { standbyBehind } from "@/data/standby";

/** How the program runs: what waits, what failed, how large it is. Figures alone, no names. */
export interface Running {
	/** writes so far, and how many of them this process has not read yet; null before it has read anything */
	readonly revision: number;
	readonly behind: number | null;
	/** work by its state: waiting, at work, failed within a day */
	readonly jobs: Counts;
	readonly mails: Counts;
	readonly webhookCalls: Counts;
	readonly imports: Counts;
	/** files of feeds by what became of them within a week */
	readonly feedFiles: Counts;
	readonly sessions: number;
	readonly database: { readonly bytes: number; readonly connections: Connections };
	/** writes that the standby for long reads has not replayed yet, null where it can’t be reached; null as a whole where none is named */
	readonly standby: { readonly behind: number | null } | null;
	/** of this process, bytes */
	readonly memory: { readonly whole: number; readonly heap: number; readonly buffers: number };
}
/** Connections to the database: of all processes on all machines together, and this one’s own. */
export interface Connections {
	readonly taken: number;
	/** so many can be taken by programs */
	readonly most: number;
	/** in the pool of this process, how many of them are at work, and how many wait for one */
	readonly own: number;
	readonly atWork: number;
	readonly waiting: number;
}
export type Counts = Readonly<Record<string, number>>;

/** Asks the database and this process how they are. */
export async function readRunning(db: Db): Promise<Running> {
	const counts = async (query: ReturnType<typeof sql>): Promise<Counts> =>
		Object.fromEntries((await db.execute(query)).rows.map(({ state, n }) => [String(state), Number(n)]));
	const [jobs, mails, webhookCalls, imports, feedFiles, whole] = await Promise.all([
		queue(db),
		counts(sql`select state, count(*) n from outbox where state <> 'sent' group by state`),
		counts(sql`select state, count(*) n from webhook_calls where state <> 'taken' group by state`),
		counts(sql`select state, count(*) n from imports where started_at > now() - interval '7 days' group by state`),
		counts(sql`select state, count(*) n from feed_runs where at > now() - interval '7 days' group by state`),
		db.execute(sql`select (select number from revision) as revision, (select count(*) from sessions where expires_at > now()) as sessions,
			pg_database_size(current_database()) as bytes,
			(select count(*) from pg_stat_activity where datname = current_database()) as connections,
			current_setting('max_connections')::int - current_setting('superuser_reserved_connections')::int as most`),
	]);
	const row = whole.rows[0] ?? {};
	const revision = Number(row.revision ?? 0);
	const kept = keptRevision();
	const { rss, heapUsed, external, arrayBuffers } = process.memoryUsage();
	const { totalCount, idleCount, waitingCount } = connection().pool;
	return {
		revision,
		behind: kept === null ? null : Math.max(0, revision - kept),
		jobs,
		mails,
		webhookCalls,
		imports,
		feedFiles,
		sessions: Number(row.sessions ?? 0),
		database: {
			bytes: Number(row.bytes ?? 0),
			connections: {
				taken: Number(row.connections ?? 0),
				most: Number(row.most ?? 0),
				own: totalCount,
				atWork: totalCount - idleCount,
				waiting: waitingCount,
			},
		},
		standby: await standbyBehind(revision),
		memory: { whole: rss, heap: heapUsed, buffers: external + arrayBuffers },
	};
}

/** The queue makes its tables by itself: before it has, nothing is in it. */
async function queue(db: Db): Promise<Counts> {
	const there = await db.execute(sql`select to_regclass('pgboss.job') is not null as there`);
	if (there.rows[0]?.there !== true) return {};
	const { rows } = await db.execute(
		sql`select case when state in ('created', 'retry') then 'waiting' when state = 'active' then 'at work' else state::text end as state, count(*) n
			from pgboss.job where state in ('created', 'retry', 'active') or (state = 'failed' and completed_on > now() - interval '1 day') group by 1`,
	);
	return Object.fromEntries(rows.map(({ state, n }) => [String(state), Number(n)]));
}
