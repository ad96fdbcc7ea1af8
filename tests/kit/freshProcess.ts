import { LRUCache } from "lru-cache";
import { endThreads } from "@/platform/threads";

/** What the program keeps once a process, by name. */
const kept = () => (globalThis as { porchLamp?: Map<string, unknown> }).porchLamp;

/**
 * Forgets what a process has kept of one database before it goes on with another: test files share a process, since loading
 * the program for each takes longer than most of their tests. It is as if the program had started again.
 */
export async function freshProcess(): Promise<void> {
	await endThreads();
	for (const [name, value] of kept() ?? []) {
		if (name === "organisation") Object.assign(value as object, { organisation: null, loading: null });
		else if (name === "connection") Object.assign(value as object, { open: null });
		else if (name === "database reach") Object.assign(value as object, { away: null });
		else if (name === "live") (value as { told: Map<string, number> }).told.clear();
		else if (value instanceof Map || value instanceof Set || value instanceof LRUCache) value.clear();
		else if (/limit|disk/.test(name)) kept()?.delete(name);
	}
}
