import { spawn } from "node:child_process";
import { chmodSync, chownSync, closeSync, mkdirSync, openSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { alive, isRoot, userIds } from "../lib/command.mjs";
import { pauses } from "../lib/pauses.mjs";
import { say } from "../lib/say.mjs";

/** so long a part may take to end by itself, in ms */
const PATIENCE = 15_000;
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** What runs of a folder’s cluster, by name: process ids. */
export const running = (folder) => {
	try {
		return JSON.parse(readFileSync(join(folder, "parts.json"), "utf8"));
	} catch {
		return {};
	}
};

/** The postmaster of a database’s folder, which Patroni starts as a process of its own; null where none runs. */
export function postmasterOf(folder, name) {
	try {
		const pid = Number(readFileSync(join(folder, name, "data", "postmaster.pid"), "utf8").split("\n", 1)[0]);
		return alive(pid) ? pid : null;
	} catch {
		return null;
	}
}

/** Kills a part as the loss of its machine would: with all its processes, and unheard. */
export function killPart(folder, name) {
	const pid = running(folder)[name];
	const postmaster = postmasterOf(folder, name);
	for (const one of [pid && -pid, pid, postmaster && -postmaster, postmaster]) {
		try {
			if (one) process.kill(one, "SIGKILL");
		} catch {
			// gone already
		}
	}
}

/** Keeps the parts of a cluster running, each started again when it ends, until `end`. */
export function keeper(folder) {
	const parts = new Map();
	const pids = {};
	let ending = false;
	const tell = () => {
		const file = join(folder, "parts.json");
		writeFileSync(`${file}.new`, JSON.stringify({ ...pids, command: process.pid }), { mode: 0o600 });
		renameSync(`${file}.new`, file);
	};
	const launch = (part, pause = pauses()) => {
		if (ending) return;
		pause.began();
		const own = join(folder, part.name);
		const ids = part.ids ?? (isRoot() && part.as ? pick(userIds(part.as)) : {});
		prepare(own, part.files(own), ids);
		const log = openSync(join(own, "log"), "a", 0o600);
		const child = spawn(part.program, part.args(own), { ...ids, stdio: ["ignore", log, log], detached: true, env: { ...process.env, ...part.env } });
		closeSync(log);
		child.on("error", (error) => say(`  ${part.name}: ${error.message}`));
		parts.set(part.name, { part, child });
		pids[part.name] = child.pid;
		tell();
		child.on("exit", async (code, signal) => {
			if (ending || parts.get(part.name)?.child !== child) return;
			say(`  ${part.name} ended (${signal ?? code}); starting it again.`);
			await sleep(pause.next());
			launch(part, pause);
		});
	};
	const stop = async (name) => {
		const found = parts.get(name);
		if (!found) return;
		const { child, part } = found;
		if (child.exitCode !== null || child.signalCode !== null) return;
		const ended = new Promise((resolve) => child.once("exit", resolve));
		child.kill(part.ends ?? "SIGTERM");
		await Promise.race([ended, sleep(PATIENCE)]);
		killPart(folder, name);
	};
	return {
		launch,
		/** Ends a part as it should end, and starts it again, as an upgrade does. */
		async renew(name) {
			const { part, child } = parts.get(name);
			const ended = new Promise((resolve) => child.once("exit", resolve));
			parts.delete(name);
			child.kill(part.leaves ?? "SIGTERM");
			await ended;
			launch(part);
		},
		/** Ends all, the last started first. */
		async end() {
			ending = true;
			for (const name of [...parts.keys()].reverse()) await stop(name);
			rmSync(join(folder, "parts.json"), { force: true });
		},
	};
}

const pick = (ids) => (ids ? { uid: ids.uid, gid: ids.gid } : {});

/** A part’s folder and files, which are its user’s own. */
function prepare(folder, files, { uid, gid }) {
	mkdirSync(folder, { recursive: true });
	const own = (path, mode) => {
		chmodSync(path, mode);
		if (uid !== undefined) chownSync(path, uid, gid);
	};
	own(folder, 0o700);
	for (const [name, text] of Object.entries(files)) {
		writeFileSync(join(folder, name), text);
		own(join(folder, name), 0o600);
	}
}
