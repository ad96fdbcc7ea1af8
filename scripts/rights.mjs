// Writes docs/rights.md anew from the lists of capabilities. npm run rights
import { mkdirSync } from "node:fs";
import { bundle } from "./lib/build.mjs";
import { run } from "./lib/command.mjs";
import { inRoot } from "./lib/paths.mjs";
import { main } from "./lib/say.mjs";

await main(async () => {
	mkdirSync(inRoot("var"), { recursive: true });
	const file = inRoot("var", "rights.mjs");
	await bundle("src/cli/rights.ts", file);
	await run(process.execPath, [file], { show: true });
});
