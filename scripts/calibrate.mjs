// Measures how well the outlook's band and chances hold, on companies made for that, and prints the tables:
//   npm run calibrate [-- --write]   with --write they go into docs/outlook.md
import { mkdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import { bundle } from "./lib/build.mjs";
import { cli } from "./lib/cli.mjs";
import { run } from "./lib/command.mjs";
import { ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { inRoot } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { Halt, main } from "./lib/say.mjs";

const TODAY = "2026-11-24";

await main(async () => {
	await ensurePostgres();
	await ensureNpm();
	const folder = inRoot("var", "calibrate");
	rmSync(folder, { recursive: true, force: true });
	mkdirSync(folder, { recursive: true });
	// One small company says what rules and people there are; the deals of the twelve are made in memory.
	const postgres = await startPostgres(join(folder, "postgres"), { quiet: true, throwaway: true });
	try {
		const env = { DATABASE_URL: postgres.url, PORCH_LAMP_TODAY: TODAY, PORCH_LAMP_DEMO: "off" };
		const command = async (name, ...args) => {
			const code = await cli(name, args, env);
			if (code !== 0) throw new Halt(`${name} ended with ${code}`);
		};
		await command("prepare");
		await command("demo", join(folder, "bundle"), "--today", TODAY, "--deals", "100");
		await command("import", join(folder, "bundle"));
		const file = join(folder, "calibrate.mjs");
		await bundle("bench/calibrate/main.ts", file);
		await run(process.execPath, ["--max-old-space-size=8000", file, ...process.argv.slice(2)], { show: true, env: { ...env, LOG_LEVEL: "silent" } });
	} finally {
		await postgres.stop();
	}
});
