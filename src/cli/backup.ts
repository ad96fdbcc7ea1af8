import { resolve } from "node:path";
import { config } from "@/config/config";
import { connection, directUrl } from "../data/db";
import { backUpContents, backup, restore, restoreContents } from "../data/store/backup";

// npm run backup -- FILE and npm run restore -- FILE, which say by the environment where PostgreSQL's programs are.
const [what, file, unsealed] = process.argv.slice(2);
const url = directUrl();
const bin = config().POSTGRES_BIN ?? "/usr/bin";
try {
	const at = resolve(file ?? "");
	const { db, close } = connection();
	let files = 0;
	const contents = async () => {
		files = await (what === "restore" ? restoreContents(db, at) : backUpContents(db, at));
	};
	const seal = await (what === "restore" ? restore(url, at, bin, unsealed === "--without-seal") : backup(url, at, bin, contents))
		.then(async (sealed) => {
			if (what === "restore") await contents();
			return sealed;
		})
		.finally(close);
	const rows = Object.values(seal.tables).reduce((sum, table) => sum + table.rows, 0);
	process.stdout.write(
		`${rows.toLocaleString("en")} rows of ${Object.keys(seal.tables).length} tables, as of ${seal.made}, ${what === "restore" ? (unsealed ? "are back; without its seal nothing says whether that is all" : "are back, and are what the backup held") : `are in ${file}`}.\n`,
	);
	if (files) process.stdout.write(`What ${files} files hold ${what === "restore" ? "is back" : `is in ${file}.files`}.\n`);
} catch (error) {
	process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
	process.exitCode = 1;
}
