import { mkdir, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { storedBundle } from "@/features/import/server/exportBundle";
import { systemWrite } from "@/platform/command";
import { connection } from "../data/db";

// npm run export -- DIR: writes the whole organisation as a bundle into a folder.
const [folder] = process.argv.slice(2);
if (folder) {
	const files = await storedBundle();
	await systemWrite(async () => ({
		result: null,
		touched: "nothing",
		audit: { action: "bundle exported on the command line", detail: { files: files.size } },
	}));
	await mkdir(folder, { recursive: true, mode: 0o700 });
	for (const [name, bytes] of files) {
		// Made anew, not written over: a file that was open to others stays so.
		await rm(join(folder, name), { force: true });
		await writeFile(join(folder, name), bytes, { mode: 0o600, flag: "wx" });
	}
	process.stdout.write(`${files.size} files are in ${folder}.\n`);
} else {
	process.stderr.write("Say where to:  npm run export -- DIR\n");
	process.exitCode = 2;
}
await connection().close();
