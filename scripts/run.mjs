// Runs a command of src/cli against the project's database, starting it for the time when it isn't running.
import { borrowDatabase } from "./lib/borrow.mjs";
import { cli } from "./lib/cli.mjs";
import { ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { main } from "./lib/say.mjs";

await main(async () => {
	const [command, ...args] = process.argv.slice(2);
	await ensureNpm();
	const work = async ({ url }) => {
		const code = await cli("prepare", ["--migrate-only"], { DATABASE_URL: url });
		return code === 0 ? cli(command, args, { DATABASE_URL: url }) : code;
	};
	if (process.env.DATABASE_URL) process.exitCode = await work({ url: process.env.DATABASE_URL });
	else {
		await ensurePostgres();
		process.exitCode = await borrowDatabase(dataFolder(), work);
	}
});
