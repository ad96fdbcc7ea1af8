// Installs what is missing and runs everything; the last line is `N passed, N failed`. Needs nothing but Node.
import { spawn } from "node:child_process";
import { existsSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { ensureBuild } from "./lib/build.mjs";
import { CHROMIUM, ensureChromium, ensureNpm, ensurePostgres, ensureSystemd } from "./lib/packages.mjs";
import { inRoot, root } from "./lib/paths.mjs";
import { freeFrom } from "./lib/ports.mjs";
import { databaseHome, removeData, startPostgres } from "./lib/postgres.mjs";
import { main, say } from "./lib/say.mjs";

const TODAY = "2026-11-24";
const data = inRoot("var", "test");
/** The interface’s tests in parts that take about as long: what mostly looks, what starts programs of its own with some others, and all the rest. */
const LOOKING = ["care", "feeds", "files", "guide", "inspection", "looks", "past", "patterns", "phone", "picture", "river", "sheet"];
const STARTING = ["api", "begin", "hand", "mailbox", "people", "provider", "service", "start"];
/** A cluster is many programs, which are to notice within seconds that one of them is gone: it has the machine to itself. */
const ALONE = ["cluster"];
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
let passed = 0;
let failed = 0;
/** passed at the second try */
let again = 0;

function count(name, ok) {
	if (ok) passed++;
	else failed++;
	say(`${ok ? "✓" : "✗"} ${name}`);
}

/** Runs a program with its output shown; answers its exit code. */
function show(file, args, env = {}) {
	return new Promise((resolve, reject) => {
		const child = spawn(file, args, { cwd: root, stdio: ["ignore", "inherit", "inherit"], env: { ...process.env, ...env } });
		child.on("error", reject);
		child.on("exit", (code) => resolve(code ?? 1));
	});
}
const bin = (name) => inRoot("node_modules", ".bin", name);
const check = async (name, file, args) => count(name, (await took(name, show(file, args))) === 0);
/** Says how long something took, so that what the whole waits for is seen. */
async function took(name, work) {
	const began = Date.now();
	const result = await work;
	say(`  ${name}: ${Math.round((Date.now() - began) / 1000)} s`);
	return result;
}

await main(async () => {
	await took("packages", Promise.resolve().then(ensurePostgres).then(ensureChromium).then(ensureSystemd).then(ensureNpm));
	rmSync(inRoot("test-results"), { recursive: true, force: true });

	await Promise.all([
		check("formatting and lint", bin("biome"), ["check", "."]),
		check("types", bin("tsc"), ["--noEmit"]),
		check("layers", process.execPath, [inRoot("scripts/layers.mjs")]),
	]);
	// The build has a core to itself while the database's tests run one after the other.
	await Promise.all([took("the build", ensureBuild()), took("unit and database tests", unitAndDatabase())]);
	await took("the interface", browser());

	if (again) say(`${again} of the interface’s tests passed at the second try only; they are marked as flaky above.`);
	say(`${passed} passed, ${failed} failed`);
	process.exitCode = failed ? 1 : 0;
});

async function unitAndDatabase() {
	const postgres = await startPostgres(join(data, "postgres"), { quiet: true, throwaway: true });
	const file = inRoot("test-results", "vitest.json");
	const code = await show(bin("vitest"), ["run", "--reporter=dot", "--reporter=json", `--outputFile.json=${file}`], {
		TEST_DATABASE_URL: postgres.url,
		TEST_KEEPER_URL: postgres.keeperUrl,
		CI: "true",
	});
	await postgres.stop();
	const report = existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
	passed += report?.numPassedTests ?? 0;
	failed += report?.numFailedTests ?? 0;
	if (!report || (code !== 0 && !report.numFailedTests)) count("unit and database tests ran", false);
}

/**
 * The interface against the production build: in three parts side by side, each with a program and data of its own, so
 * that nothing that one part's tests change is seen by another's. Two would leave the processors waiting for pages.
 */
async function browser() {
	const all = readdirSync(inRoot("tests", "e2e")).filter((name) => name.endsWith(".spec.ts"));
	const files = (names) => names.map((name) => `${name}.spec.ts`);
	const parts = [files(LOOKING), all.filter((name) => !files([...LOOKING, ...STARTING, ...ALONE]).includes(name)), files(STARTING)];
	const running = [];
	// One after the other until they are up: each looks for a free port for its database.
	for (const [i, part] of parts.entries()) {
		const program = await startProgram(i + 1);
		running.push((program.up ? took(`part ${i + 1}`, drive(program, part)) : Promise.resolve()).then(program.stop));
	}
	await Promise.all(running);
	await took("the cluster", drive({ number: parts.length + 1, base: "" }, files(ALONE)));
}

/** Starts the program with the start command, and says how to reach and to stop it. One process is enough for one browser: each works out by itself what it shows. */
async function startProgram(number) {
	const folder = join(data, `app${number}`);
	removeData(folder);
	const port = await freeFrom(3100 + number);
	const base = `http://127.0.0.1:${port}`;
	const server = spawn(process.execPath, [inRoot("scripts/start.mjs")], {
		cwd: root,
		stdio: ["ignore", "inherit", "inherit"],
		env: {
			...process.env,
			PORCH_LAMP_DATA: folder,
			PORCH_LAMP_TODAY: TODAY,
			PORT: String(port),
			DATABASE_URL: "",
			PORCH_LAMP_PROCESSES: "1",
			PORCH_LAMP_HOOKS_INSIDE: "on",
		},
	});
	let ended = null;
	server.on("exit", (code) => {
		ended = code ?? 1;
	});
	let up = false;
	for (let tries = 0; tries < 600 && ended === null && !up; tries++) {
		up = await fetch(`${base}/healthz`).then(
			(answer) => answer.ok,
			() => false,
		);
		if (!up) await sleep(300);
	}
	count(`the start command brings program ${number} up`, up);
	const stop = async () => {
		if (ended === null) server.kill("SIGINT");
		for (let tries = 0; tries < 100 && ended === null; tries++) await sleep(200);
		count(`Ctrl-C stops server and database of program ${number} cleanly`, ended === 0 && !existsSync(join(databaseHome(folder), "data", "postmaster.pid")));
		if (ended === null) server.kill("SIGKILL");
	};
	return { number, base, up, stop };
}

/** Runs test files against a program. */
async function drive({ number, base }, files) {
	const results = inRoot("test-results", `e2e${number}`);
	const code = await show(bin("playwright"), ["test", "--output", results, ...files], {
		BASE_URL: base,
		CHROMIUM,
		CI: "true",
		PLAYWRIGHT_JSON_OUTPUT_FILE: `${results}.json`,
	});
	const stats = existsSync(`${results}.json`) ? JSON.parse(readFileSync(`${results}.json`, "utf8")).stats : null;
	passed += (stats?.expected ?? 0) + (stats?.flaky ?? 0);
	again += stats?.flaky ?? 0;
	failed += stats?.unexpected ?? 0;
	if (!stats || (code !== 0 && !stats.unexpected)) count(`the interface’s tests of part ${number} ran`, false);
}
