import { readFile, stat } from "node:fs/promises";
import { basename } from "node:path";
import { importById, runImport } from "@/features/import/server/importBundle";
import { instantNow } from "@/platform/clock";
import { newId } from "@/platform/ids";
import { connection } from "../data/db";
import { imports } from "../data/schema";
import { folderContents } from "../formats/bundle/contents";
import { readFolder, UnpackFault } from "../formats/bundle/unpack";

// npm run import -- DIR|ZIP [--dry-run] [--skip-bad]: imports a bundle and prints its report.
const args = process.argv.slice(2);
const path = args.find((arg) => !arg.startsWith("--"));
const { db, close } = connection();
process.exitCode = path ? await run(path) : usage();
await close();

function usage(): number {
	process.stderr.write("Say which folder or zip to import:  npm run import -- DIR [--dry-run] [--skip-bad]\n");
	return 2;
}

async function run(from: string): Promise<number> {
	const found = await stat(from).catch(() => null);
	if (!found) {
		process.stderr.write(`Nothing found at ${from}.\n`);
		return 2;
	}
	try {
		const source = found.isDirectory() ? await readFolder(from) : new Uint8Array(await readFile(from));
		const options = { dryRun: args.includes("--dry-run"), skipBad: args.includes("--skip-bad"), name: basename(from) };
		const id = newId("import");
		await db.insert(imports).values({ id, name: options.name, dryRun: options.dryRun, state: "reading", startedAt: new Date(await instantNow(db)) });
		const follow = setInterval(
			() =>
				// An import isn't given up because for a moment nobody can be told how far it is.
				void importById(id).then(
					(now) => process.stdout.write(`${now.step} ${now.progress.total ? `${now.progress.done} of ${now.progress.total}` : ""}\n`),
					() => {},
				),
			2000,
		);
		const beside = found.isDirectory() ? await folderContents(from) : undefined;
		const report = await runImport(id, source, options, beside).finally(() => clearInterval(follow));
		for (const p of report.problems.slice(0, 100))
			process.stdout.write(`${p.file}${p.line ? `:${p.line}` : ""} ${p.column ?? ""} ${p.value === null ? "" : JSON.stringify(p.value)} ${p.reason}\n`);
		if (report.problemCount > 100) process.stdout.write(`… and ${report.problemCount - 100} more problems\n`);
		for (const [file, rows] of Object.entries(report.counts))
			process.stdout.write(`${file.padEnd(20)} ${rows} rows read, ${report.changed[file] ?? 0} added or changed\n`);
		process.stdout.write(`Import ${report.state}.\n`);
		return report.state === "done" || report.state === "checked" ? 0 : 1;
	} catch (error) {
		if (!(error instanceof UnpackFault)) throw error;
		process.stderr.write(`${error.file}: ${error.message}\n`);
		return 1;
	}
}
