// npm run provider: a company's sign-in on loopback to try with; it believes what anyone says of themselves.
import { bundle } from "./lib/build.mjs";
import { run } from "./lib/command.mjs";
import { ensureNpm } from "./lib/packages.mjs";
import { inRoot } from "./lib/paths.mjs";
import { main } from "./lib/say.mjs";

await main(async () => {
	await ensureNpm();
	const program = inRoot("var", "provider.mjs");
	await bundle("src/fakes/provider/main.ts", program);
	await run(process.execPath, [program], { show: true });
});
