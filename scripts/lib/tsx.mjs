import { spawn } from "node:child_process";
import { inRoot, root } from "./paths.mjs";

/** Runs one of the project's TypeScript commands (src/cli) and answers its exit code. */
export function tsx(command, args, env = {}) {
	return new Promise((resolve, reject) => {
		const child = spawn(process.execPath, ["--import", "tsx", inRoot("src/cli", `${command}.ts`), ...args], {
			cwd: root,
			stdio: "inherit",
			env: { ...process.env, ...env },
		});
		child.on("error", reject);
		child.on("exit", (code) => resolve(code ?? 1));
	});
}
