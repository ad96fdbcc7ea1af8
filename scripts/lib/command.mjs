import { spawn, spawnSync } from "node:child_process";
import { root } from "./paths.mjs";
import { Halt } from "./say.mjs";

/** Runs a command to its end. Its output is kept and shown only when it fails, unless `show` is set. */
export function run(file, args, { show = false, env = {}, ...options } = {}) {
	return new Promise((resolve, reject) => {
		const child = spawn(file, args, {
			cwd: root,
			stdio: show ? "inherit" : ["ignore", "pipe", "pipe"],
			...options,
			env: { ...process.env, ...env },
		});
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

/** Whether a process is there. */
export function alive(pid) {
	try {
		process.kill(pid, 0);
		return true;
	} catch {
		return false;
	}
}
