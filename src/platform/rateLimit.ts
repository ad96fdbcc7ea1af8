import { Fault } from "./fault";
import { refused, sharedLimiter } from "./sharedLimiter";

/** so many writes a minute nobody makes by hand, and few programs need */
const A_MINUTE = 600;

/** Throws a 429 where somebody writes faster than they can mean to, by whichever process. */
export async function rateLimit(personId: string): Promise<void> {
	if ((await refused(sharedLimiter("paces of writing", A_MINUTE, 60), personId)) !== null)
		throw new Fault(429, "Too fast", `More than ${A_MINUTE} changes were sent in your name within a minute. Wait a minute, then send more slowly.`);
}
