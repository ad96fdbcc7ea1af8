import { monitorEventLoopDelay } from "node:perf_hooks";
import pg from "pg";
import { processSingleton } from "./processSingleton";

/**
 * Thrown in place of asking a database that can’t be reached: who asks is told at once instead of waiting for it. It is
 * known by its code, since this module can be there several times in a process, and the class with it.
 */
export class DatabaseAway extends Error {
	readonly code = AWAY;
	constructor() {
		super("the database can’t be reached");
	}
}

const AWAY = "DATABASE_AWAY";

interface State {
	/** since when it can’t be reached, in ms; null while it can */
	away: number | null;
	looking: Promise<void> | null;
}
const state = processSingleton("database reach", (): State => ({ away: null, looking: null }));

/** so often it is looked for, and so long a look may take, in ms */
const EVERY = 300;
const LOOK = 2500;
/** Where this process itself came to nothing for so long (ms), that a look took too long says nothing of the database. */
const BUSY = 300;

/** Since when the database can’t be reached, in ms; null while it can, as far as is known. */
export const awaySince = (): number | null => state.away;

/** What is broken where a connection is: SQLSTATE’s classes and codes, and Node’s own. 08P01 is a pool’s in front that has no server. */
const AWAY_CODES = /^(08...|57P0[1235]|ECONN(REFUSED|RESET|ABORTED)|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|ENOTFOUND|EAI_AGAIN)$/;
/** A primary that was until a moment ago answers that it may only be read (25006). */
const DEMOTED = "25006";
const AWAY_WORDS = /Connection terminated|timeout exceeded when trying to connect|connection error and is not queryable|Query read timeout/;

/** Whether an error says that the database, or the way to it, is gone, and nothing of what was asked. */
export function isAway(error: unknown): boolean {
	for (let at = error, depth = 0; at instanceof Error && depth < 5; at = at.cause, depth++) {
		if (AWAY_WORDS.test(at.message)) return true;
		const code = "code" in at && typeof at.code === "string" ? at.code : "";
		if (AWAY_CODES.test(code) || code === DEMOTED || code === AWAY) return true;
		if (at instanceof AggregateError && at.errors.some((one) => isAway(one))) return true;
	}
	return false;
}

/** What a look found: a database that can be written to, none, or no answer in time. */
type Found = "there" | "gone" | "late";

async function look(url: string): Promise<Found> {
	const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: LOOK, query_timeout: LOOK, application_name: "porch lamp look" });
	client.on("error", () => undefined);
	const delay = monitorEventLoopDelay({ resolution: 20 });
	delay.enable();
	try {
		await client.connect();
		// A standby that was asked by mistake can be read, and nothing more.
		const { rows } = await client.query("select pg_is_in_recovery() as standby");
		return rows[0]?.standby === false ? "there" : "gone";
	} catch (error) {
		if (!/timeout/i.test(String(error))) return "gone";
		return delay.max / 1e6 > BUSY ? "there" : "late";
	} finally {
		delay.disable();
		client.end().catch(() => undefined);
	}
}

/**
 * Looks at each way to it until something is certain: a machine on which all are busy may be late once. A pool in front has
 * those who ask wait for a primary that is gone, the way past it says so at once.
 */
async function reaches(ways: readonly string[]): Promise<boolean> {
	for (const url of ways) {
		const first = await look(url);
		if ((first === "late" ? await look(url) : first) !== "there") return false;
	}
	return true;
}

/**
 * Looks whether the database is there, since somebody had trouble with it; one looks for all. While it isn’t, nothing else is
 * asked of it, and it is looked for until it is back.
 */
export function lookForDatabase(ways: readonly string[]): Promise<void> {
	state.looking ??= (async () => {
		while (!(await reaches(ways))) {
			state.away ??= Date.now();
			await new Promise((resolve) => setTimeout(resolve, EVERY));
		}
		state.away = null;
		state.looking = null;
	})();
	return state.looking;
}

/** Waits for the database until an instant (ms). Answers whether it is there; after that instant it isn’t waited for any more. */
export async function reachedBy(ways: readonly string[], until: number): Promise<boolean> {
	if (Date.now() >= until) return false;
	let timer: NodeJS.Timeout | undefined;
	const over = new Promise<false>((resolve) => {
		timer = setTimeout(resolve, Math.max(0, until - Date.now()), false);
	});
	const reached = await Promise.race([lookForDatabase(ways).then(() => true), over]);
	clearTimeout(timer);
	return reached;
}
