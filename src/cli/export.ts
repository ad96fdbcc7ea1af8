import { mkdir, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { bundleFiles, storedBundle } from "@/features/import/server/exportBundle";
import { CONTENTS } from "@/formats/bundle/contents";
import { systemWrite } from "@/platform/write";
import { connection } from "../data/db";

// npm run export -- DIR: writes the whole organisation as a bundle into a folder.
const [folder] = process.argv.slice(2);
if (folder) {
	const tables = await storedBundle();
	await systemWrite(async () => ({
		result: null,
		touched: "nothing",
		audit: { action: "bundle exported on the command line", detail: { files: tables.size } },
	}));
	await mkdir(join(folder, CONTENTS), { recursive: true, mode: 0o700 });
	let count = 0;
	for await (const [name, bytes] of bundleFiles(tables)) {
		count++;
		// Made anew, not written over: a file that was open to others stays so.
		await rm(join(folder, name), { force: true });
		await writeFile(join(folder, name), bytes, { mode: 0o600, flag: "wx" });
	}
	process.stdout.write(`${count} files are in ${folder}.\n`);
} else {
	process.stderr.write("Say where to:  npm run export -- DIR\n");
	process.exitCode = 2;
}
await connection().close();
