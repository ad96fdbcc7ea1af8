import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { alive } from "./command.mjs";
import { locked } from "./lock.mjs";
import { startPostgres } from "./postgres.mjs";
import { say } from "./say.mjs";

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Who serves a data folder, or is about to: null where nobody does. */
export function servedBy(folder) {
	try {
		const run = JSON.parse(readFileSync(join(folder, "run.json"), "utf8"));
		return alive(run.pid) ? run : null;
	} catch {
		return null;
	}
}

const using = (folder) => join(folder, "using");
const launchedFile = (folder) => join(using(folder), "launched");
/** Others of these commands that use the database now. */
const others = (folder) => readdirSync(using(folder)).filter((name) => /^\d+$/.test(name) && Number(name) !== process.pid && alive(Number(name)));
export const lockOf = (folder) => join(folder, "database.lock");

/**
 * Lets a command use a data folder's database, which is started for the time when nothing runs it. One that is being started
 * is waited for. Only what a command started is stopped, by the last command that uses it, and not while the program runs.
 */
export async function borrowDatabase(folder, work) {
	mkdirSync(using(folder), { recursive: true });
	const mine = join(using(folder), String(process.pid));
	writeFileSync(mine, "");
	try {
		for (let waits = 0; ; waits++) {
			const run = servedBy(folder);
			if (!run || run.ready) break;
			if (waits % 20 === 0) say(waits === 0 ? "Porch Lamp is starting; this waits for it." : `  still waiting for Porch Lamp to start (${waits / 4} s)`);
			await sleep(250);
		}
		const postgres = await locked(lockOf(folder), async () => {
			const server = await startPostgres(join(folder, "postgres"));
			if (server.launched) writeFileSync(launchedFile(folder), "");
			return server;
		});
		try {
			return await work(postgres);
		} finally {
			await locked(lockOf(folder), async () => {
				if (!isLaunched(folder) || servedBy(folder) || others(folder).length) return;
				rmSync(launchedFile(folder), { force: true });
				await postgres.stop();
			});
		}
	} finally {
		rmSync(mine, { force: true });
	}
}

const isLaunched = (folder) => readdirSync(using(folder)).includes("launched");

/** The program has taken the database over: no command stops it any more. */
export function keepDatabase(folder) {
	rmSync(launchedFile(folder), { force: true });
}
