import { RateLimiterPostgres, type RateLimiterRes } from "rate-limiter-flexible";
import { connection } from "@/data/db";
import { processSingleton } from "@/data/processSingleton";

/** Counts in the database how often something is tried, so that processes and machines count together: `points` within `seconds`. */
export const sharedLimiter = (name: string, points: number, seconds: number): RateLimiterPostgres =>
	processSingleton(`limit of ${name}`, () => {
		const { pool } = connection();
		// Without the names of statements: a pool in front gives each transaction another connection, which doesn’t know them.
		const client = { query: ({ text, values }: { text: string; values: unknown[] }) => pool.query(text, values) };
		return new RateLimiterPostgres({
			storeClient: client,
			storeType: "client",
			tableName: "sign_in_attempts",
			tableCreated: true,
			keyPrefix: name,
			points,
			duration: seconds,
		});
	});

/** Counts a try; answers null, or in how many ms one may try again. @throws what the database throws */
export async function refused(limiter: RateLimiterPostgres, key: string): Promise<number | null> {
	try {
		await limiter.consume(key);
		return null;
	} catch (refusal) {
		// A database that can’t be asked isn’t somebody who tries too often.
		const wait = (refusal as RateLimiterRes).msBeforeNext;
		if (wait === undefined) throw refusal;
		return wait;
	}
}
