import { spawn, spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { root } from "./paths.mjs";
import { Halt } from "./say.mjs";

const children = new Set();
// Nothing that was begun goes on when this has ended.
process.on("exit", () => stopChildren());

/** Remembers a child until it ends, so that it ends with this program. */
export function ours(child) {
	children.add(child);
	child.once("exit", () => children.delete(child));
	return child;
}

/** Ends every child that still runs. */
export function stopChildren() {
	for (const child of children) child.kill("SIGTERM");
}

/** Runs a command to its end. Its output is kept and shown only when it fails, unless `show` is set. */
export function run(file, args, { show = false, env = {}, ...options } = {}) {
	return new Promise((resolve, reject) => {
		const child = ours(
			spawn(file, args, {
				cwd: root,
				stdio: show ? "inherit" : ["ignore", "pipe", "pipe"],
				...options,
				env: { ...process.env, ...env },
			}),
		);
		let output = "";
		const keep = (chunk) => {
			output = (output + chunk).slice(-20_000);
		};
		child.stdout?.on("data", keep);
		child.stderr?.on("data", keep);
		child.on("error", reject);
		child.on("exit", (code) => {
			if (code === 0) resolve(output);
			else reject(new Halt(`${output}\n${file} ${args.join(" ")} ended with ${code}`));
		});
	});
}

export const works = (file, args) => spawnSync(file, args, { stdio: "ignore" }).status === 0;
export const isRoot = () => process.getuid?.() === 0;

/** Ids of a system user, or null when there is none. */
export function userIds(name) {
	const ask = (flag) => Number(spawnSync("id", [flag, name], { encoding: "utf8" }).stdout?.trim() || Number.NaN);
	const [uid, gid] = [ask("-u"), ask("-g")];
	return Number.isNaN(uid) ? null : { uid, gid };
}

/** Whether a process is there and hasn't ended: one that only waits for its parent to hear of its end has. */
export function alive(pid) {
	if (!pid) return false;
	try {
		return !/^\d+ \(.*\) Z/s.test(readFileSync(`/proc/${pid}/stat`, "utf8"));
	} catch {
		return false;
	}
}
