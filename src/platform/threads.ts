import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { Piscina } from "piscina";
import { processWide } from "@/data/processWide";

/** What `src/threads/main.ts` offers; named there, since it knows the capabilities and this file mustn't. */
export type ThreadTask = "importBundle" | "readGrid" | "loadDemo" | "find";

/** memory of a thread: a file that needs more ends its thread, not the server */
const MEGABYTES = 2048;
/** connections of a thread's own: one that writes, and one that tells how far it is */
const POOL = "3";

/** The program of the threads is built into one file beside the server; tests name another. */
const program = () => resolve(process.cwd(), process.env.PORCH_LAMP_THREADS ?? ".next/threads.mjs");

/** What is found out of the past needs the whole organisation in memory, so its thread stays for a while; and it waits for no import. */
const PAST: readonly ThreadTask[] = ["find"];
const STAYS = { work: 10_000, past: 300_000 };
type Kind = keyof typeof STAYS;

const pools = processWide("threads", () => new Map<Kind, Piscina>());

function threads(kind: Kind): Piscina {
	const known = pools.get(kind);
	if (known) return known;
	const open = new Piscina({
		filename: pathToFileURL(program()).href,
		minThreads: 0,
		maxThreads: 1,
		idleTimeout: STAYS[kind],
		env: { ...(process.env as Record<string, string>), PORCH_LAMP_POOL: POOL },
		execArgv: [],
		resourceLimits: { maxOldGenerationSizeMb: MEGABYTES },
	});
	pools.set(kind, open);
	return open;
}

/**
 * Does heavy work in a thread of its own, one piece of a kind at a time, so that nobody's page waits for it. What is given and
 * answered is copied between threads.
 *
 * @throws what the work throws, as a plain Error; an Error with the code ERR_WORKER_OUT_OF_MEMORY where it needed too much
 */
export function inThread<R>(task: ThreadTask, given: unknown): Promise<R> {
	return threads(PAST.includes(task) ? "past" : "work").run(given, { name: task }) as Promise<R>;
}

/** Ends the threads; a test's end waits for it. */
export async function endThreads(): Promise<void> {
	const open = [...pools.values()];
	pools.clear();
	await Promise.all(open.map((one) => one.destroy()));
}

/** so many rows are worked on before others get their turn */
const BREATH = 1000;

/** Lets others be answered in the midst of long work; called with the number of each row. */
export async function breathe(row: number): Promise<void> {
	if (row % BREATH === BREATH - 1) await new Promise((resolve) => setImmediate(resolve));
}
