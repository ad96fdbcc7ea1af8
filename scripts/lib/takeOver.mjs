import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { servedBy } from "./borrow.mjs";
import { Halt } from "./say.mjs";

// How one checkout’s server takes over from another’s while both answer: a command writes its wish down, signals the start
// that watches over the server, and reads there what became of it.
const WISH = "take-over.json";
const FATE = "taken-over.json";
/** ms that a server may take to be ready, and that one that leaves may take to end what it answers */
const STARTS = 600_000;
const LEAVES = 65_000;
const LOOKS = 250;
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const put = (file, what) => {
	writeFileSync(`${file}.part`, JSON.stringify(what), { mode: 0o600 });
	renameSync(`${file}.part`, file);
};
const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null);

export const wishIn = (folder) => read(join(folder, WISH));
/** `why` it isn’t taken; null where it is */
export const tellFate = (folder, { id }, why) => put(join(folder, FATE), { id, why });

/** @throws Halt unless a run serves behind a socket at which another can take over */
export function demandSocket(run) {
	if (!run?.ready) throw new Halt("Nothing serves this data now, so there is nothing to take over from: start the new checkout.");
	if (!run.socket)
		throw new Halt("What serves this data listens by itself, so nothing can take over from it: stop it, and start the new checkout in its place.");
}

/**
 * Asks the start that serves a data folder to let a checkout’s server take over, which has to be ready, and to stay so for
 * `proving` seconds beside the one that is there. Throws why it isn’t taken.
 */
export async function takeOver(folder, checkout, proving) {
	const run = servedBy(folder);
	demandSocket(run);
	const id = `${process.pid}-${Date.now()}`;
	rmSync(join(folder, FATE), { force: true });
	put(join(folder, WISH), { id, checkout, proving });
	process.kill(run.pid, "SIGUSR2");
	for (;;) {
		const fate = read(join(folder, FATE));
		if (fate?.id === id) {
			if (fate.why) throw new Halt(fate.why);
			return;
		}
		if (!servedBy(folder)) throw new Halt("The program was stopped in the midst of it.");
		await sleep(LOOKS);
	}
}

/** Starts a server beside the one that is there, and looks whether it comes up and stays; one that doesn’t is ended. */
export async function proven(start, address, { proving }, stopped) {
	const fresh = start();
	let ended = null;
	fresh.once("exit", (code, signal) => {
		ended = signal ?? code ?? 1;
	});
	const ready = () =>
		fetch(address, { signal: AbortSignal.timeout(5000) }).then(
			({ ok }) => ok,
			() => false,
		);
	const give = (why) => {
		if (ended === null) fresh.kill("SIGKILL");
		return { fresh: null, why };
	};
	for (const until = Date.now() + STARTS; !(await ready()); await sleep(LOOKS)) {
		if (stopped()) return give("the program was stopped");
		if (ended !== null) return give(`it ended (${ended}) before it was ready; its log is server.log in the data folder`);
		if (Date.now() > until) return give(`it wasn’t ready within ${STARTS / 60_000} minutes`);
	}
	let misses = 0;
	for (const until = Date.now() + proving * 1000; Date.now() < until; await sleep(LOOKS)) {
		if (stopped()) return give("the program was stopped");
		if (ended !== null) return give(`it ended (${ended}) soon after it was ready`);
		misses = (await ready()) ? 0 : misses + 1;
		if (misses >= 3) return give("it was ready, and then wasn’t any more");
	}
	return ended === null ? { fresh, why: null } : give(`it ended (${ended}) soon after it was ready`);
}

/** Lets a server end what it answers, and then itself. */
export async function leave(server) {
	if (server.exitCode !== null || server.signalCode !== null) return;
	const ended = new Promise((resolve) => server.once("exit", resolve));
	server.kill("SIGUSR2");
	await Promise.race([ended, sleep(LEAVES)]);
	if (server.exitCode === null) server.kill("SIGKILL");
}
