// Measures what the program promises to be fast at, in one run, and prints a table with the aim beside each figure.
// npm run bench [-- load | cluster [--deals N] [--people N]] [--write]: with "load" many people at once, with "cluster" several
// application servers, else one after another; with --write the table goes into docs/performance.md, or docs/cluster.md.
import { existsSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import { bundle, ensureBuild } from "./lib/build.mjs";
import { cli } from "./lib/cli.mjs";
import { run } from "./lib/command.mjs";
import { ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { inRoot } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { main, step } from "./lib/say.mjs";

const TODAY = "2026-11-24";
/** deals of the company whose pages are measured: about 10 000 of them are open */
const DEALS = "53000";
const option = (name) => process.argv[process.argv.indexOf(`--${name}`) + 1 || Number.NaN];

await main(async () => {
	await ensurePostgres();
	await ensureNpm();
	await ensureBuild();
	const deals = option("deals") ?? "";
	const folder = inRoot("var", `bench${deals && `-${deals}`}`);
	mkdirSync(folder, { recursive: true });
	const postgres = await startPostgres(join(folder, "postgres"), { quiet: true });
	try {
		const url = postgres.url;
		const env = { DATABASE_URL: url, PORCH_LAMP_TODAY: TODAY, PORCH_LAMP_DEMO: "off" };
		await fill(folder, env, DEALS);
		const onlyLoad = process.argv.includes("load");
		const cluster = process.argv.includes("cluster");
		const small = new URL(url);
		small.pathname = "/porchlamp_demo";
		if (onlyLoad) {
			await makeDatabase(postgres.keeperUrl, "porchlamp_demo", new URL(url).username);
			await fill(join(folder, "demo"), { ...env, DATABASE_URL: small.href }, "900");
		}
		const file = join(folder, "bench.mjs");
		// Room for young objects as the program’s own processes have it. The source as it runs: a loader that translates while it runs would be measured along with it.
		await bundle(onlyLoad ? "bench/loadMain.ts" : cluster ? "bench/cluster/main.ts" : "bench/main.ts", file);
		if (cluster) await bundle("bench/cluster/follower.ts", join(folder, "follower.mjs"));
		await run(process.execPath, ["--max-old-space-size=12000", "--max-semi-space-size=64", "--expose-gc", file, ...process.argv.slice(2)], {
			show: true,
			env: {
				...env,
				...(deals && { BENCH_DEALS: deals }),
				BENCH_PEOPLE: option("people") ?? "",
				BENCH_DEMO_URL: onlyLoad ? small.href : url,
				BENCH_FOLDER: folder,
				LOG_LEVEL: "silent",
			},
		});
	} finally {
		await postgres.stop();
	}
});

/** Fills a database with a made-up company, once. */
async function fill(folder, env, deals) {
	mkdirSync(folder, { recursive: true });
	const command = async (name, ...args) => {
		const code = await cli(name, args, env);
		if (code !== 0) throw new Error(`${name} ended with ${code}`);
	};
	// A company that was made for an earlier version is brought to this one’s tables.
	if (existsSync(join(folder, "filled"))) return command("prepare", "--migrate-only");
	await step(`Filling a database with a company of ${Number(deals).toLocaleString("en")} deals (53 000 take about five minutes), once`, async () => {
		await command("prepare");
		await command("demo", join(folder, "bundle"), "--today", TODAY, "--deals", deals);
		await command("import", join(folder, "bundle"));
		mkdirSync(join(folder, "filled"));
	});
}

async function makeDatabase(url, name, owner) {
	const { default: pg } = await import("pg");
	const client = new pg.Client({ connectionString: url });
	await client.connect();
	const { rowCount } = await client.query("select 1 from pg_database where datname = $1", [name]);
	if (!rowCount) await client.query(`create database ${name} owner ${owner}`);
	await client.end();
}
