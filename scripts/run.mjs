// Runs a command of src/cli against the project's database, starting it for the time when it isn't running.

import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { cli } from "./lib/cli.mjs";
import { alive } from "./lib/command.mjs";
import { ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { main } from "./lib/say.mjs";

await main(async () => {
	const [command, ...args] = process.argv.slice(2);
	await ensureNpm();
	let url = process.env.DATABASE_URL;
	let stop = async () => undefined;
	if (!url) {
		await ensurePostgres();
		const served = existsSync(join(dataFolder(), "run.json")) && alive(JSON.parse(readFileSync(join(dataFolder(), "run.json"), "utf8")).pid);
		const postgres = await startPostgres(join(dataFolder(), "postgres"));
		url = postgres.url;
		if (!served) stop = postgres.stop;
	}
	let code = await cli("prepare", ["--migrate-only"], { DATABASE_URL: url });
	if (code === 0) code = await cli(command, args, { DATABASE_URL: url });
	await stop();
	process.exitCode = code;
});
