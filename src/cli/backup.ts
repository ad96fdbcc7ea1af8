import { resolve } from "node:path";
import { config } from "@/config/config";
import { backup, restore } from "../data/store/backup";

// npm run backup -- FILE and npm run restore -- FILE, which say by the environment where PostgreSQL's programs are.
const [what, file, unsealed] = process.argv.slice(2);
const url = config().DATABASE_URL ?? "";
const bin = config().POSTGRES_BIN ?? "/usr/bin";
try {
	const at = resolve(file ?? "");
	const seal = await (what === "restore" ? restore(url, at, bin, unsealed === "--without-seal") : backup(url, at, bin));
	const rows = Object.values(seal.tables).reduce((sum, table) => sum + table.rows, 0);
	process.stdout.write(
		`${rows.toLocaleString("en")} rows of ${Object.keys(seal.tables).length} tables, as of ${seal.made}, ${what === "restore" ? (unsealed ? "are back; without its seal nothing says whether that is all" : "are back, and are what the backup held") : `are in ${file}`}.\n`,
	);
} catch (error) {
	process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
	process.exitCode = 1;
}
