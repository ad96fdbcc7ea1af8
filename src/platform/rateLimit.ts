import { RateLimiterMemory } from "rate-limiter-flexible";
import { processSingleton } from "@/data/processSingleton";
import { Fault } from "./fault";

/** so many writes a minute nobody makes by hand, and few programs need */
const A_MINUTE = 600;

const limiter = processSingleton("paces of writing", () => new RateLimiterMemory({ points: A_MINUTE, duration: 60 }));

/** Throws a 429 where somebody writes faster than they can mean to. */
export async function rateLimit(personId: string): Promise<void> {
	await limiter.consume(personId).catch(() => {
		throw new Fault(429, "Too fast", `More than ${A_MINUTE} changes were sent in your name within a minute. Wait a minute, then send more slowly.`);
	});
}
