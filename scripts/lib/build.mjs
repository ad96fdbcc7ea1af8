import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { run } from "./command.mjs";
import { inRoot, root } from "./paths.mjs";
import { step } from "./say.mjs";

const SOURCES = ["src", "scripts/lib/pauses.mjs", "public", "package-lock.json", "next.config.ts", "tsconfig.json"];

function* filesIn(path) {
	if (!existsSync(path)) return;
	if (!statSync(path).isDirectory()) return void (yield path);
	const entries = readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
	for (const entry of entries) {
		const full = join(path, entry.name);
		if (entry.isDirectory()) yield* filesIn(full);
		else if (!entry.name.includes(".test.")) yield full;
	}
}

/** What the sources are now, as a sum; and where it is written what was built of. */
export function sourcesNow() {
	const hash = createHash("sha256");
	for (const source of SOURCES) {
		for (const file of filesIn(inRoot(source))) hash.update(file.slice(root.length)).update(readFileSync(file));
	}
	return hash.digest("hex");
}
export const STAMP = inRoot(".next", "porch-lamp-build");

/** Builds for production when a source changed since the last build. */
export async function ensureBuild() {
	const state = sourcesNow();
	if (existsSync(STAMP) && readFileSync(STAMP, "utf8") === state) return;
	await step("Building the application (about a minute)", () =>
		run(process.execPath, [inRoot("node_modules/next/dist/bin/next"), "build"], { env: { NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" } }),
	);
	await bundle("src/host/main.ts", HOST);
	await bundle("src/threads/main.ts", THREADS);
	await bundle("src/fakes/mailbox/main.ts", MAILBOX);
	writeFileSync(STAMP, state);
}

/** The server's own part, which the framework doesn't build. */
export const HOST = inRoot(".next", "host.mjs");

/** The mail server that stands in for a real one. */
export const MAILBOX = inRoot(".next", "mailbox.mjs");

/** What runs in threads of its own. */
const THREADS = inRoot(".next", "threads.mjs");

/** Puts a program of TypeScript into one file that Node runs as it is; packages stay outside, styles count for nothing. */
export async function bundle(entry, outfile) {
	await run(inRoot("node_modules/.bin/esbuild"), [
		inRoot(entry),
		"--bundle",
		"--platform=node",
		"--format=esm",
		"--target=node20",
		"--packages=external",
		"--jsx=automatic",
		"--loader:.css=empty",
		`--outfile=${outfile}`,
		"--log-level=warning",
	]);
}
