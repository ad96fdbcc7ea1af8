// npm run backup -- FILE: writes everything into a file, while the program runs or not.
// npm run restore -- FILE: puts it in the place of what is there, which is kept aside under another name.
import { existsSync } from "node:fs";
import { dirname, resolve } from "node:path";
import { borrowDatabase, servedBy } from "./lib/borrow.mjs";
import { cli } from "./lib/cli.mjs";
import { ensureNpm, ensurePostgres, postgresBin } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { Halt, main, say } from "./lib/say.mjs";

/** Restores a backup whose seal is lost; it has to be asked for by name. */
const UNSEALED = "--without-seal";

await main(async () => {
	const [what, ...given] = process.argv.slice(2);
	const file = given.find((word) => !word.startsWith("--"));
	const args = given.filter((word) => word.startsWith("--"));
	const strange = args.find((word) => !(what === "restore" && word === UNSEALED));
	if (strange) throw new Halt(`${strange} isn’t known here.`);
	if (!file) throw new Halt(`Say which file:  npm run ${what} -- FILE`);
	if (what === "restore" && !existsSync(file)) throw new Halt(`Nothing found at ${file}.`);
	if (what === "restore" && !existsSync(`${file}.seal.json`) && !args.includes(UNSEALED))
		throw new Halt(
			`The seal of this backup isn’t beside it: ${file}.seal.json, which says what the backup held, so that what is restored can be held against it.\nPut it there; or, if it is lost, restore without that check:\n  npm run restore -- ${file} ${UNSEALED}`,
		);
	if (what === "backup" && !existsSync(dirname(resolve(file)))) throw new Halt(`There is no folder ${dirname(resolve(file))}.`);
	if (process.env.DATABASE_URL) throw new Halt("DATABASE_URL names a database of your own: back it up by its own means, such as pg_dump.");
	await ensurePostgres();
	await ensureNpm();
	if (what === "restore" && servedBy(dataFolder())) throw new Halt("Porch Lamp runs on this data. Stop it first.");
	const bin = postgresBin();
	process.exitCode = await borrowDatabase(dataFolder(), (postgres) =>
		what === "restore" ? restore(postgres, file, bin, args) : cli("backup", ["backup", file], { DATABASE_URL: postgres.url, POSTGRES_BIN: bin }),
	);
});

/** Restores beside what is there, and lets it take the place of that only when it is all there and right. */
async function restore(postgres, file, bin, args) {
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
		let code = await cli("backup", ["restore", file, ...args], env);
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
