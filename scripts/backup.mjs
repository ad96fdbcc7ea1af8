// npm run backup -- FILE: writes everything into a file, while the program runs or not.
// npm run backup -- FOLDER [--keep N]: the same into a file named by the time; of those there the last N are kept.
// npm run restore -- FILE: puts it in the place of what is there, which is kept aside under another name.
// npm run restore -- FILE or FOLDER --rehearse: restores it, or the newest, beside what is there, and throws that away.
import { existsSync, readdirSync, rmSync, statSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { borrowDatabase, servedBy } from "./lib/borrow.mjs";
import { cli } from "./lib/cli.mjs";
import { ensureNpm, ensurePostgres, postgresBin } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { Halt, main, say } from "./lib/say.mjs";

/** Restores a backup whose seal is lost; it has to be asked for by name. */
const UNSEALED = "--without-seal";
/** Restores a backup only to see that it can be: nothing that is there is touched. */
const REHEARSE = "--rehearse";
const NAMED = /^porch-lamp-\d{8}-\d{6}\.backup$/;

await main(async () => {
	const [what, ...given] = process.argv.slice(2);
	const keep = keepOf(what, given);
	const named = given.find((word, i) => !word.startsWith("--") && given[i - 1] !== "--keep");
	const args = given.filter((word) => word.startsWith("--") && word !== "--keep");
	const strange = args.find((word) => !(what === "restore" && (word === UNSEALED || word === REHEARSE)));
	if (strange) throw new Halt(`${strange} isn’t known here.`);
	if (!named) throw new Halt(`Say which file:  npm run ${what} -- FILE`);
	const folder = existsSync(named) && statSync(named).isDirectory() ? named : null;
	if (keep !== null && folder === null) throw new Halt(`--keep is for a folder of backups, and ${named} isn’t one.`);
	const file = folder === null ? named : what === "backup" ? join(folder, `porch-lamp-${stamp()}.backup`) : newestIn(folder);
	const rehearse = args.includes(REHEARSE);
	if (what === "restore" && !existsSync(file)) throw new Halt(`Nothing found at ${file}.`);
	if (what === "restore" && !existsSync(`${file}.seal.json`) && !args.includes(UNSEALED))
		throw new Halt(
			`The seal of this backup isn’t beside it: ${file}.seal.json, which says what the backup held, so that what is restored can be held against it.\nPut it there; or, if it is lost, restore without that check:\n  npm run restore -- ${file} ${UNSEALED}`,
		);
	if (what === "backup" && !existsSync(dirname(resolve(file)))) throw new Halt(`There is no folder ${dirname(resolve(file))}.`);
	if (process.env.DATABASE_URL) throw new Halt("DATABASE_URL names a database of your own: back it up by its own means, such as pg_dump.");
	await ensurePostgres();
	await ensureNpm();
	if (what === "restore" && !rehearse && servedBy(dataFolder())) throw new Halt("Porch Lamp runs on this data. Stop it first.");
	const bin = postgresBin();
	const code = await borrowDatabase(dataFolder(), (postgres) =>
		what === "restore" ? restore(postgres, file, bin, args) : cli("backup", ["backup", file], { DATABASE_URL: postgres.url, POSTGRES_BIN: bin }),
	);
	if (code === 0 && folder !== null && keep !== null) forget(folder, keep);
	process.exitCode = code;
});

/** How many backups of a folder are kept; null for all. */
function keepOf(what, given) {
	if (!given.includes("--keep")) return null;
	const keep = Number(given[given.indexOf("--keep") + 1]);
	if (what !== "backup" || !Number.isInteger(keep) || keep < 1) throw new Halt("--keep says how many backups of a folder are kept: a whole number from 1 on.");
	return keep;
}

/** The time as it stands in a name, in UTC. */
function stamp() {
	const digits = new Date().toISOString().replace(/\D/g, "");
	return `${digits.slice(0, 8)}-${digits.slice(8, 14)}`;
}

function backupsIn(folder) {
	return readdirSync(folder)
		.filter((name) => NAMED.test(name))
		.sort();
}

function newestIn(folder) {
	const newest = backupsIn(folder).at(-1);
	if (!newest) throw new Halt(`There is no backup in ${folder}.`);
	return join(folder, newest);
}

/** Removes all but the last backups of a folder, each with what lies beside it. */
function forget(folder, keep) {
	for (const name of backupsIn(folder).slice(0, -keep))
		for (const part of ["", ".seal.json", ".files"]) rmSync(join(folder, `${name}${part}`), { recursive: true, force: true });
}

/** Restores beside what is there, and lets it take the place of that only when it is all there and right. */
async function restore(postgres, file, bin, args) {
	const { default: pg } = await import("pg");
	const own = new URL(postgres.url);
	const name = own.pathname.slice(1);
	const rehearse = args.includes(REHEARSE);
	const fresh = `${name}_${rehearse ? "rehearsal" : "restoring"}`;
	const at = new URL(postgres.keeperUrl);
	at.pathname = "/postgres";
	const keeper = new pg.Client({ connectionString: at.href });
	await keeper.connect();
	try {
		await keeper.query(`drop database if exists ${fresh} with (force)`);
		await keeper.query(`create database ${fresh} owner ${own.username}`);
		const url = new URL(own);
		url.pathname = `/${fresh}`;
		// What files hold comes into the database of a rehearsal, and goes with it.
		const env = { DATABASE_URL: url.href, POSTGRES_BIN: bin, ...(rehearse ? { PORCH_LAMP_FILES: "" } : {}) };
		const began = Date.now();
		let code = await cli("backup", ["restore", file, ...args.filter((word) => word === UNSEALED)], env);
		// What was made by an earlier version is brought up to this one.
		if (code === 0) code = await cli("prepare", ["--migrate-only"], env);
		if (code !== 0) {
			await keeper.query(`drop database if exists ${fresh} with (force)`);
			say(rehearse ? `${file} can’t be restored; see above. Nothing was changed.` : "Nothing was changed.");
			return code;
		}
		if (rehearse) {
			await keeper.query(`drop database ${fresh} with (force)`);
			say(`${file} was restored and brought up to this version in ${Math.ceil((Date.now() - began) / 1000)} s, and thrown away again. Nothing was changed.`);
			return 0;
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
