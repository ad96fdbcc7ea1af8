import { RateLimiterMemory } from "rate-limiter-flexible";
import { plural } from "@/core/words/grammar";
import { processSingleton } from "@/data/processSingleton";
import { Fault } from "./fault";

/** How often something may be tried: `points` within `seconds`, by each process of the server. */
interface Limit {
	readonly points: number;
	readonly seconds: number;
}

/** What isn't a write of somebody signed in, which has its own pace, or is guessed at. */
const LIMITS = {
	/** of links to set a password, from one place */
	"password links": { points: 30, seconds: 900 },
	/** of somebody's present password, by a person at their screen */
	"own password": { points: 10, seconds: 900 },
	/** of one calendar, and of addresses of calendars from one place */
	calendar: { points: 120, seconds: 600 },
	"calendar addresses": { points: 300, seconds: 600 },
	/** of mails brought in, and of wrong secrets from one place */
	"mails in": { points: 600, seconds: 60 },
	"mail secrets": { points: 20, seconds: 600 },
} as const satisfies Readonly<Record<string, Limit>>;

const limiterOf = (of: keyof typeof LIMITS) =>
	processSingleton(`limit of ${of}`, () => new RateLimiterMemory({ points: LIMITS[of].points, duration: LIMITS[of].seconds }));

/** Throws a 429 where something is tried more often than it can be meant to; `key` says by whom or of what. */
export async function demandLimit(of: keyof typeof LIMITS, key: string): Promise<void> {
	await limiterOf(of)
		.consume(key)
		.catch((refusal: { msBeforeNext?: number }) => {
			const wait = Math.max(1, Math.ceil((refusal.msBeforeNext ?? 0) / 60_000));
			throw new Fault(429, "Too many attempts", `Too many attempts. Wait ${plural(wait, "minute")} and try again.`);
		});
}

/** Forgets what was tried, once it was done rightly. */
export async function forgetTries(of: keyof typeof LIMITS, key: string): Promise<void> {
	await limiterOf(of).delete(key);
}
