// Lets this checkout take over from the one that serves a data folder, without a request that fails: it backs up, tries its
// restore and its migrations on a copy, migrates, and starts beside what is there, which goes on if this one isn't well.
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { borrowDatabase, servedBy } from "../lib/borrow.mjs";
import { ensureBuild } from "../lib/build.mjs";
import { cli } from "../lib/cli.mjs";
import { run } from "../lib/command.mjs";
import { ensureNpm } from "../lib/packages.mjs";
import { dataFolder, inRoot, root } from "../lib/paths.mjs";
import { Halt, main, say, step } from "../lib/say.mjs";
import { demandSocket, takeOver } from "../lib/takeOver.mjs";

await main(async () => {
	const folder = dataFolder();
	// `proving`: seconds that the new one has to stay well beside the old one before that leaves
	const { values } = parseArgs({ options: { backups: { type: "string" }, proving: { type: "string", default: "20" } } });
	const backups = values.backups ?? join(folder, "backups");
	demandSocket(servedBy(folder));
	await ensureNpm();
	await ensureBuild();
	mkdirSync(backups, { recursive: true, mode: 0o700 });
	const backup = (...args) => run(process.execPath, [inRoot("scripts/backup.mjs"), ...args]);
	await step("Backing up", () => backup("backup", backups));
	// On a copy: a migration that fails there has touched nothing.
	await step("Trying its restore, and the migrations on what was restored", () => backup("restore", backups, "--rehearse"));
	const code = await step("Bringing the database up to this version", () =>
		borrowDatabase(folder, (postgres) => cli("prepare", ["--migrate-only"], { DATABASE_URL: postgres.url })),
	);
	if (code !== 0) throw new Halt("The database could not be brought up to this version, and is as it was. What served before serves on.");
	try {
		await step("Starting beside what is there", () => takeOver(folder, root, Number(values.proving)));
	} catch (error) {
		throw new Halt(
			`${error instanceof Halt ? error.message : error}\nWhat served before serves on. The database has the tables of both; the backup from before is the newest in ${backups}.`,
		);
	}
	say(`The program of ${root} has taken over.`);
});
