import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { Piscina } from "piscina";
import { config } from "@/config/config";
import { processSingleton } from "@/data/processSingleton";

/** What `src/threads/main.ts` offers; named there, since it knows the capabilities and this file mustn't. */
export type ThreadTask = "importBundle" | "readGrid" | "loadDemo" | "find" | "readIntake" | "readMail" | "ready";

/** memory of a thread: a file that needs more ends its thread, not the server */
const MEGABYTES = 2048;
/** Room for what lives as long as a step of the work, as the program’s processes have it: with less of it much is moved about several times. */
const YOUNG = 192;
/** connections of a thread's own: one that writes, and one that tells how far it is */
const POOL = "3";

/** The program of the threads is built into one file beside the server; tests name another. */
const program = () => resolve(process.cwd(), config().PORCH_LAMP_THREADS ?? ".next/threads.mjs");

/** ms that an idle thread stays. What is found out of the past needs the whole organisation in memory, so its thread stays longest. */
const STAYS = { work: 10_000, past: 300_000, mail: 10_000, intake: 10_000 };
type Kind = keyof typeof STAYS;
/** Which thread does what: neither the past nor mails wait for an import. */
const KINDS: Readonly<Partial<Record<ThreadTask, Kind>>> = { find: "past", readMail: "mail", readIntake: "intake" };

const pools = processSingleton("threads", () => new Map<Kind, Piscina>());
/** the last of those that wait for their turn with a bound on their time, each after the one before */
const turns = processSingleton("threadTurns", () => new Map<Kind, Promise<unknown>>());

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
		resourceLimits: { maxOldGenerationSizeMb: MEGABYTES, maxYoungGenerationSizeMb: YOUNG },
	});
	pools.set(kind, open);
	return open;
}

/**
 * Does heavy work in a thread of its own, one piece of a kind at a time, so that nobody's page waits for it. What is given and
 * answered is copied between threads.
 *
 * @param most ms it may take from the moment its thread gets to it; what takes longer ends with its thread
 * @throws what the work throws, as a plain Error; an Error with the code ERR_WORKER_OUT_OF_MEMORY where it needed too much;
 * an AbortError where it took too long
 */
export function inThread<R>(task: ThreadTask, given: unknown, most?: number): Promise<R> {
	const kind = KINDS[task] ?? "work";
	if (!most) return threads(kind).run(given, { name: task }) as Promise<R>;
	// Neither those before it nor the start of the thread count as its own time: on a busy machine they take longer than it does.
	const mine = (turns.get(kind) ?? Promise.resolve()).then(async () => {
		await threads(kind).run(undefined, { name: "ready" satisfies ThreadTask });
		return threads(kind).run(given, { name: task, signal: AbortSignal.timeout(most) });
	});
	turns.set(
		kind,
		mine.catch(() => undefined),
	);
	return mine as Promise<R>;
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
