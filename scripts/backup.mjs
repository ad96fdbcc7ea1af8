// npm run backup -- FILE: writes everything into a file, while the program runs or not.
// npm run restore -- FILE: puts it in the place of what is there, which is kept aside under another name.
import { existsSync, readFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { cli } from "./lib/cli.mjs";
import { alive } from "./lib/command.mjs";
import { ensureNpm, ensurePostgres, postgresBin } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { Halt, main, say } from "./lib/say.mjs";

await main(async () => {
	const [what, file] = process.argv.slice(2);
	if (!file) throw new Halt(`Say which file:  npm run ${what} -- FILE`);
	if (what === "restore" && !existsSync(file)) throw new Halt(`There is nothing at ${file}.`);
	if (what === "backup" && !existsSync(dirname(resolve(file)))) throw new Halt(`There is no folder ${dirname(resolve(file))}.`);
	if (process.env.DATABASE_URL) throw new Halt("DATABASE_URL names a database of your own: back it up by its own means, such as pg_dump.");
	await ensurePostgres();
	await ensureNpm();
	const runFile = join(dataFolder(), "run.json");
	const served = existsSync(runFile) && alive(JSON.parse(readFileSync(runFile, "utf8")).pid);
	if (what === "restore" && served) throw new Halt("Porch Lamp runs on this data. Stop it first.");
	const postgres = await startPostgres(join(dataFolder(), "postgres"));
	const bin = postgresBin();
	try {
		process.exitCode =
			what === "restore" ? await restore(postgres, file, bin) : await cli("backup", ["backup", file], { DATABASE_URL: postgres.url, POSTGRES_BIN: bin });
	} finally {
		if (!served) await postgres.stop();
	}
});

/** Restores beside what is there, and lets it take the place of that only when it is all there and right. */
async function restore(postgres, file, bin) {
	const { default: pg } = await import("pg");
	const own = new URL(postgres.url);
	const name = own.pathname.slice(1);
	const fresh = `${name}_restoring`;
	const at = new URL(postgres.keeperUrl);
	at.pathname = "/postgres";
	const keeper = new pg.Client({ connectionString: at.href });
	await keeper.connect();
	try {
		await keeper.query(`drop database if exists ${fresh} with (force)`);
		await keeper.query(`create database ${fresh} owner ${own.username}`);
		const url = new URL(own);
		url.pathname = `/${fresh}`;
		const env = { DATABASE_URL: url.href, POSTGRES_BIN: bin };
		let code = await cli("backup", ["restore", file], env);
		// What was made by an earlier version is brought up to this one.
		if (code === 0) code = await cli("prepare", ["--migrate-only"], env);
		if (code !== 0) {
			await keeper.query(`drop database if exists ${fresh} with (force)`);
			say("Nothing was changed.");
			return code;
		}
		const aside = `${name}_until_${new Date().toISOString().replace(/\D/g, "").slice(0, 14)}`;
		await keeper.query(`alter database ${name} rename to ${aside}`);
		await keeper.query(`alter database ${fresh} rename to ${name}`);
		say(`What was there before is kept in the database ${aside}.`);
		return 0;
	} finally {
		await keeper.end();
	}
}
