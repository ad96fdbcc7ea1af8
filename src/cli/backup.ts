import { resolve } from "node:path";
import { config } from "@/config/config";
import { connection } from "../data/db";
import { backUpContents, backup, restore, restoreContents } from "../data/store/backup";

// npm run backup -- FILE and npm run restore -- FILE, which say by the environment where PostgreSQL's programs are.
const [what, file, unsealed] = process.argv.slice(2);
const url = config().DATABASE_URL ?? "";
const bin = config().POSTGRES_BIN ?? "/usr/bin";
try {
	const at = resolve(file ?? "");
	const seal = await (what === "restore" ? restore(url, at, bin, unsealed === "--without-seal") : backup(url, at, bin));
	const { db, close } = connection();
	const files = await (what === "restore" ? restoreContents(db, at) : backUpContents(db, at)).finally(close);
	const rows = Object.values(seal.tables).reduce((sum, table) => sum + table.rows, 0);
	process.stdout.write(
		`${rows.toLocaleString("en")} rows of ${Object.keys(seal.tables).length} tables, as of ${seal.made}, ${what === "restore" ? (unsealed ? "are back; without its seal nothing says whether that is all" : "are back, and are what the backup held") : `are in ${file}`}.\n`,
	);
	if (files) process.stdout.write(`What ${files} files hold ${what === "restore" ? "is back" : `is in ${file}.files`}.\n`);
} catch (error) {
	process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
	process.exitCode = 1;
}
