import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { parseDay } from "../core/time/day";
import { generate } from "../fakes/emberwick/generate";
import { CONTENTS } from "../formats/bundle/contents";

// npm run demo -- DIR [--today DAY] [--deals N] [--seed S]: writes the demo company, at any size, as a bundle.
const { values, positionals } = parseArgs({
	allowPositionals: true,
	options: { today: { type: "string", default: "2026-11-24" }, deals: { type: "string" }, seed: { type: "string" } },
});
const today = parseDay(values.today);
const [folder] = positionals;
if (!folder || today === null) {
	process.stderr.write("npm run demo -- DIR [--today 2026-11-24] [--deals 900] [--seed lamp]\n");
	process.exitCode = 2;
} else {
	const files = generate({ today, ...(values.deals ? { deals: Number(values.deals) } : {}), ...(values.seed ? { seed: values.seed } : {}) });
	await mkdir(join(folder, CONTENTS), { recursive: true });
	for (const [name, bytes] of files) await writeFile(join(folder, name), bytes);
	process.stdout.write(`${files.size} files are in ${folder}.\n`);
}
