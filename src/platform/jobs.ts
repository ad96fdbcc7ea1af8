import pg from "pg";
import PgBoss from "pg-boss";

export interface Nightly {
	readonly name: string;
	/** the time zone whose midnight counts */
	readonly zone: string;
	readonly work: () => Promise<unknown>;
	/** told of a failure of the queue itself; a job that throws is tried again */
	readonly onError: (error: Error) => void;
}

/**
 * Has work done every night by one of however many processes share the database, and at every start, so that
 * what was missed while none ran is made good: never by two at a time, and the work itself does nothing that is
 * done already. The queue lives in a schema of its own beside the tables.
 */
export async function startNightly(url: string, job: Nightly): Promise<{ stop: () => Promise<void> }> {
	const boss = new PgBoss({ connectionString: url, max: 2, application_name: "porch lamp jobs" });
	boss.on("error", job.onError);
	// Processes that start together would stand in each other's way while the queue is made.
	await alone(url, async () => {
		await boss.start();
		await boss.createQueue(job.name, { name: job.name, policy: "singleton", retryLimit: 5, retryDelay: 60, retryBackoff: true });
	});
	await boss.schedule(job.name, "5 0 * * *", undefined, { tz: job.zone });
	await boss.send(job.name, {});
	await boss.work(job.name, { pollingIntervalSeconds: 20 }, job.work);
	return { stop: () => boss.stop({ graceful: true, timeout: 5000 }) };
}

/** Runs work while no other process does, by a lock in the database. */
async function alone(url: string, work: () => Promise<void>): Promise<void> {
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	try {
		await client.query("select pg_advisory_lock(hashtext('porch lamp jobs'))");
		await work();
	} finally {
		await client.end();
	}
}
