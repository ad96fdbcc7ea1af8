// Measures what the program promises to be fast at, in one run, and prints a table with the aim beside each figure.
// npm run bench [-- --write]: with --write the table goes into docs/performance.md.
import { existsSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import { ensureBuild } from "./lib/build.mjs";
import { run } from "./lib/command.mjs";
import { ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { inRoot } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { main, step } from "./lib/say.mjs";

const TODAY = "2026-11-24";
/** deals of the company whose pages are measured: about 10 000 of them are open */
const DEALS = "39000";

await main(async () => {
	await ensurePostgres();
	await ensureNpm();
	await ensureBuild();
	const folder = inRoot("var", "bench");
	mkdirSync(folder, { recursive: true });
	const postgres = await startPostgres(join(folder, "postgres"), { quiet: true });
	try {
		const url = postgres.url;
		const env = { DATABASE_URL: url, PORCH_LAMP_TODAY: TODAY, PORCH_LAMP_DEMO: "off" };
		const cli = (name, ...args) => run(process.execPath, ["--import", "tsx", inRoot("src/cli", `${name}.ts`), ...args], { env });
		if (!existsSync(join(folder, "filled"))) {
			await step("Filling a database with a company of 39 000 deals (about three minutes, once)", async () => {
				await cli("prepare");
				await cli("demo", join(folder, "bundle"), "--today", TODAY, "--deals", DEALS);
				await cli("import", join(folder, "bundle"));
				mkdirSync(join(folder, "filled"));
			});
		}
		const bundle = join(folder, "bench.mjs");
		// The source as it runs: a loader that translates while it runs would be measured along with it.
		await run(inRoot("node_modules/.bin/esbuild"), [
			inRoot("bench/main.ts"),
			"--bundle",
			"--platform=node",
			"--format=esm",
			"--packages=external",
			`--outfile=${bundle}`,
			"--log-level=warning",
		]);
		await run(process.execPath, ["--max-old-space-size=12000", "--expose-gc", bundle, ...process.argv.slice(2)], {
			show: true,
			env: { ...env, BENCH_DEMO_URL: url, BENCH_FOLDER: folder, LOG_LEVEL: "silent" },
		});
	} finally {
		await postgres.stop();
	}
});
