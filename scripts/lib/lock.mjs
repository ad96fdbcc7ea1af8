import { linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname } from "node:path";
import { alive } from "./command.mjs";

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const holderOf = (file) => {
	try {
		return Number(readFileSync(file, "utf8"));
	} catch {
		return null;
	}
};

/** Takes a lock for this process, unless a process that lives holds it. A file that is there is whole: it was linked into its place. */
function take(file) {
	const own = `${file}.${process.pid}`;
	mkdirSync(dirname(file), { recursive: true });
	writeFileSync(own, String(process.pid), { mode: 0o600 });
	try {
		linkSync(own, file);
		return true;
	} catch {
		const holder = holderOf(file);
		if (holder !== null && !alive(holder)) rmSync(file, { force: true });
		return false;
	} finally {
		rmSync(own, { force: true });
	}
}

/** Does something while no other process does the like: waits for the process that has the lock, and takes it over from one that was killed. */
export async function locked(file, work, aborted = () => false) {
	while (!take(file)) {
		if (aborted()) break;
		await sleep(100);
	}
	try {
		return await work();
	} finally {
		if (holderOf(file) === process.pid) rmSync(file, { force: true });
	}
}
