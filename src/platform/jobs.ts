import pg from "pg";
import PgBoss from "pg-boss";

interface Job {
	readonly name: string;
	/** a job that throws is tried again */
	readonly work: () => Promise<unknown>;
	/** done every minute instead of every night */
	readonly often?: boolean;
	/** also asked for in between, and done at once then */
	readonly soon?: boolean;
}

interface Nightly {
	/** the time zone whose midnight counts */
	readonly zone: string;
	readonly jobs: readonly Job[];
	/** told of a failure of the queue itself */
	readonly onError: (error: Error) => void;
}

/**
 * Has work done every night or every minute by one of however many processes share the database, and at every start, so that
 * what was missed while none ran is made good: never by two at a time, and the work itself does nothing that is
 * done already. The queue lives in a schema of its own beside the tables.
 */
export async function startJobs(
	url: string,
	{ zone, jobs, onError }: Nightly,
): Promise<{ stop: () => Promise<void>; ask: (name: string) => Promise<unknown> }> {
	const boss = new PgBoss({ connectionString: url, max: 2, application_name: "porch lamp jobs" });
	boss.on("error", onError);
	try {
		// Processes that start together would stand in each other's way while the queue is made.
		await alone(url, "jobs", async () => {
			await boss.start();
			for (const { name, often } of jobs) {
				// What is done every minute anyway waits at most once, and isn't tried again before.
				const queue = often
					? { name, policy: "short" as const, retryLimit: 0, retentionMinutes: 60 }
					: { name, policy: "standard" as const, retryLimit: 5, retryDelay: 60, retryBackoff: true };
				await boss.createQueue(name, queue);
				await boss.updateQueue(name, queue);
			}
		});
		for (const { name, work, often, soon } of jobs) {
			await boss.schedule(name, often ? "* * * * *" : "5 0 * * *", undefined, { tz: zone });
			await boss.send(name, {});
			// One at a time by a lock that ends with the process: the queue's own would be held by a killed one for long.
			await boss.work(name, { pollingIntervalSeconds: soon ? 1 : often ? 10 : 20 }, () => alone(url, `job ${name}`, work));
		}
	} catch (error) {
		// A queue that came up in part would go on beside the next try.
		await boss.stop({ graceful: false }).catch(() => undefined);
		throw error;
	}
	return { stop: () => boss.stop({ graceful: true, timeout: 5000 }), ask: (name) => boss.send(name, {}) };
}

/** Runs work while no other process does what is called the same, by a lock in the database. */
async function alone(url: string, what: string, work: () => Promise<unknown>): Promise<void> {
	const client = new pg.Client({ connectionString: url });
	// Lost in the midst it says so at its next query; unheard it would end the process.
	client.on("error", () => undefined);
	await client.connect();
	try {
		await client.query("select pg_advisory_lock(hashtext($1))", [`porch lamp ${what}`]);
		await work();
	} finally {
		await client.end();
	}
}
