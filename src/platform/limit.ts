import { plural } from "@/core/words/grammar";
import { Fault } from "./fault";
import { refused, sharedLimiter } from "./sharedLimiter";

/** How often something may be tried: `points` within `seconds`, whichever process is asked. */
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
	/** of ways back from the company’s sign-in, and of word from it that somebody left, from one place: an office has one address */
	"company sign-in": { points: 300, seconds: 600 },
	/** of mails brought in, and of wrong secrets from one place */
	"mails in": { points: 600, seconds: 60 },
	"mail secrets": { points: 20, seconds: 600 },
} as const satisfies Readonly<Record<string, Limit>>;

const limiterOf = (of: keyof typeof LIMITS) => sharedLimiter(of, LIMITS[of].points, LIMITS[of].seconds);

/** Throws a 429 where something is tried more often than it can be meant to; `key` says by whom or of what. */
export async function demandLimit(of: keyof typeof LIMITS, key: string): Promise<void> {
	const wait = await refused(limiterOf(of), key);
	if (wait !== null)
		throw new Fault(429, "Too many attempts", `Too many attempts. Wait ${plural(Math.max(1, Math.ceil(wait / 60_000)), "minute")} and try again.`);
}

/** Forgets what was tried, once it was done rightly. */
export async function forgetTries(of: keyof typeof LIMITS, key: string): Promise<void> {
	await limiterOf(of).delete(key);
}
