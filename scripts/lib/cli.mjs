import { spawn } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { bundle } from "./build.mjs";
import { ours } from "./command.mjs";
import { inRoot, root } from "./paths.mjs";

/**
 * Runs one of the project's commands (src/cli) and answers its exit code. It is put into one file first, which takes less
 * than half a second and leaves nothing to be translated while it runs.
 */
export async function cli(command, args, env = {}) {
	const folder = inRoot("node_modules", ".cache", "porch-lamp");
	mkdirSync(folder, { recursive: true });
	// Its own name: the same command may run twice at once.
	const file = `${folder}/${command}-${process.pid}-${Date.now()}.mjs`;
	await bundle(`src/cli/${command}.ts`, file);
	try {
		return await new Promise((resolve, reject) => {
			const child = ours(spawn(process.execPath, [file, ...args], { cwd: root, stdio: "inherit", env: { ...process.env, ...env } }));
			child.on("error", reject);
			child.on("exit", (code) => resolve(code ?? 1));
		});
	} finally {
		rmSync(file, { force: true });
	}
}
