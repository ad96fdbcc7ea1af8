import { type ChildProcess, spawn } from "node:child_process";
import { expect } from "@playwright/test";
import { freeFrom } from "../../scripts/lib/ports.mjs";
import { removeData } from "../../scripts/lib/postgres.mjs";

export interface Run {
	readonly child: ChildProcess;
	readonly output: () => string;
	readonly ended: Promise<number | null>;
}

/** The program's commands on a folder of their own, for what a test starts, kills and starts again. */
export interface Program {
	readonly folder: string;
	/** where it is reached once it is up */
	readonly base: () => string;
	readonly port: () => number;
	/** Runs one of the scripts, with more of the environment. */
	readonly run: (script: string, args?: readonly string[], more?: Readonly<Record<string, string>>) => Run;
	/** Starts it, and waits until the start has said all that it says. */
	readonly start: (more?: Readonly<Record<string, string>>) => Promise<Run>;
	/** Whether it says that it is well. */
	readonly well: () => Promise<boolean>;
	readonly comesUp: () => Promise<void>;
	/** what was started last, to be ended when the tests end */
	running: ChildProcess | null;
	/** Empties the folder and finds a port. */
	readonly begin: () => Promise<void>;
}

export function programIn(folder: string, firstPort: number): Program {
	const env = { PORCH_LAMP_DATA: folder, PORCH_LAMP_DEMO: "off", PORCH_LAMP_TODAY: "2026-11-24", DATABASE_URL: "" };
	let port = 0;
	const program: Program = {
		folder,
		running: null,
		base: () => `http://127.0.0.1:${port}`,
		port: () => port,
		run(script, args = [], more = {}) {
			let text = "";
			const child = spawn(process.execPath, [`scripts/${script}.mjs`, ...args], {
				env: { ...process.env, ...env, PORT: String(port), ...more },
				stdio: ["ignore", "pipe", "pipe"],
			});
			for (const stream of [child.stdout, child.stderr])
				stream?.on("data", (chunk) => {
					text += chunk;
				});
			return { child, output: () => text, ended: new Promise((done) => child.on("exit", (code) => done(code))) };
		},
		async start(more = {}) {
			const started = program.run("start", [], more);
			program.running = started.child;
			await program.comesUp().catch((error) => {
				throw new Error(`${error.message}\nThe start said:\n${started.output()}`);
			});
			await expect.poll(started.output, { timeout: 600_000 }).toContain("Ctrl-C stops it.");
			return started;
		},
		well: () =>
			fetch(`${program.base()}/healthz`).then(
				(answer) => answer.ok,
				() => false,
			),
		comesUp: () => expect.poll(program.well, { timeout: 600_000, intervals: [300] }).toBe(true),
		async begin() {
			removeData(folder);
			// Below the ports that connections going out are given: one of those could take it before the program does.
			port = await freeFrom(firstPort);
		},
	};
	return program;
}
