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
 * Has work done once a night by one of however many processes share the database, and once now, so that what
 * was missed while none ran is made good. The queue lives in a schema of its own beside the tables.
 */
export async function startNightly(url: string, job: Nightly): Promise<{ stop: () => Promise<void> }> {
	const boss = new PgBoss({ connectionString: url, max: 2, application_name: "porch lamp jobs" });
	boss.on("error", job.onError);
	// Processes that start together would stand in each other's way while the queue is made.
	await alone(url, async () => {
		await boss.start();
		await boss.createQueue(job.name, { name: job.name, policy: "singleton", retryLimit: 5, retryDelay: 60, retryBackoff: true });
	});
	await boss.work(job.name, { pollingIntervalSeconds: 20 }, job.work);
	await boss.schedule(job.name, "5 0 * * *", undefined, { tz: job.zone });
	await boss.send(job.name, {}, { singletonKey: "made good at the start", singletonSeconds: 60 });
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
