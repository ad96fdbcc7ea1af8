import { mkdir, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { storedBundle } from "@/features/import/server/exportBundle";
import { ownWrite } from "@/platform/command";
import { connection } from "../data/db";

// npm run export -- DIR: writes the whole organisation as a bundle into a folder.
const [folder] = process.argv.slice(2);
if (folder) {
	const files = await storedBundle();
	await ownWrite(async () => ({ result: null, touched: "nothing", audit: { action: "bundle exported on the command line", detail: { files: files.size } } }));
	await mkdir(folder, { recursive: true });
	for (const [name, bytes] of files) await writeFile(join(folder, name), bytes);
	process.stdout.write(`${files.size} files are in ${folder}.\n`);
} else {
	process.stderr.write("Say where to:  npm run export -- DIR\n");
	process.exitCode = 2;
}
await connection().close();
