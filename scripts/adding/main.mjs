// Adds one thing of each kind to a copy of the program as docs/adding.md says (one file, one line in a list), and a versioned
// field, and runs types, layers and the tests of lists, bundle and edits there. What a kind needs beyond that shows as an error.
import { spawnSync } from "node:child_process";
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { ensurePostgres } from "../lib/packages.mjs";
import { inRoot, root } from "../lib/paths.mjs";
import { startPostgres } from "../lib/postgres.mjs";
import { Halt, main, say } from "../lib/say.mjs";
import { addField } from "./field.mjs";

/** Of each kind one that is there: its file, what it is called there, its key, and the list it stands in. */
const SAMPLES = [
	{ what: "a flag rule", file: "src/core/flags/unowned.ts", name: "unowned", key: "unowned", list: "src/core/flags/list.ts" },
	{ what: "a step of the bridge", file: "src/core/bridge/steps/removed.ts", name: "removed", key: "removed", list: "src/core/bridge/steps/index.ts" },
	{ what: "a call of a round", file: "src/core/rounds/calls/gone.ts", name: "gone", key: "gone", list: "src/core/rounds/calls/index.ts" },
	{
		what: "a column of the deals’ table",
		file: "src/features/deals/columns/competitor.ts",
		name: "competitor",
		key: "competitor",
		list: "src/features/deals/columns/index.ts",
	},
	{ what: "a filter of the deals", file: "src/features/deals/filters/gaps.ts", name: "gaps", key: "gaps", list: "src/features/deals/filters/index.ts" },
	{ what: "a panel of Setup", file: "src/features/setup/panels/audit.tsx", name: "auditPanel", key: "audit", list: "src/features/panels.ts" },
	{ what: "a kind of tile", file: "src/features/boards/panels/text.tsx", name: "textTile", key: "text", list: "src/features/boards/panels/index.ts" },
	{
		what: "what tells of a tile in mails",
		file: "src/features/boards/server/told/text.ts",
		name: "textTold",
		key: "text",
		list: "src/features/boards/server/told/index.ts",
	},
	{
		what: "a view of the past",
		file: "src/features/patterns/server/kinds/sources.ts",
		name: "sources",
		key: "sources",
		list: "src/features/patterns/server/kinds/index.ts",
	},
	{
		what: "a finding of the past",
		file: "src/features/patterns/server/findings/moved.ts",
		name: "moved",
		key: "moved",
		list: "src/features/patterns/server/findings/index.ts",
	},
	{
		what: "a kind of happening",
		file: "src/features/reaching/happenings/named.ts",
		name: "named",
		key: "named",
		list: "src/features/reaching/happenings/index.ts",
	},
	{
		what: "a letter that is sent by itself",
		file: "src/features/sendings/server/letters/changes.ts",
		name: "changesLetter",
		key: "changes",
		list: "src/features/sendings/server/letters/index.ts",
	},
];

const TESTS = [
	"src/core/history",
	"tests/unit/registry.test.ts",
	"tests/unit/words.test.ts",
	"tests/unit/bundle.test.ts",
	"tests/db/addedField.test.ts",
	"tests/db/edit.test.ts",
];

/** Adds a second one like a sample: its file beside it, and its line after the sample's in the list. */
function add(copy, { what, file, name, key, list }) {
	const [made, path] = [`${name}Again`, file.replace(/(\.tsx?)$/, "Again$1")];
	const source = readFileSync(join(copy, file), "utf8");
	const again = source.replace(new RegExp(`export const ${name}\\b`), `export const ${made}`).replace(new RegExp(`"${key}"`), `"${key}-again"`);
	if (again === source) throw new Halt(`${file} has no ${name}.`);
	// What else the file exports is the sample's, and stays there alone.
	writeFileSync(join(copy, path), again.replace(/^export (?!const \w+Again\b)/gm, ""));
	const lines = readFileSync(join(copy, list), "utf8");
	const from = new RegExp(`^import .*\\b${name}\\b.* from "(.+?)";\\n`, "m").exec(lines);
	if (!from) throw new Halt(`${list} doesn’t import ${name}.`);
	const after = from.index + from[0].length;
	const body = lines.slice(after).replace(new RegExp(`(?<=[[{,\\t ])${name}(?=[,\\s\\]}])`), `${name}, ${made}`);
	writeFileSync(join(copy, list), `${lines.slice(0, after)}import { ${made} } from "${from[1]}Again";\n${body}`);
	say(`· ${what}: ${path}, and a line in ${list}`);
}

/** The files of the program as they are, written down or not. */
function sources() {
	const args = ["ls-files", "-co", "--exclude-standard", "src", "tests", "scripts", "docs", "*.json", "*.ts"];
	const { stdout } = spawnSync("git", args, { cwd: root, encoding: "utf8" });
	return stdout
		.trim()
		.split("\n")
		.filter((file) => existsSync(inRoot(file)));
}

await main(async () => {
	const copy = mkdtempSync(join(tmpdir(), "porch-lamp-adding-"));
	try {
		for (const file of sources()) {
			mkdirSync(dirname(join(copy, file)), { recursive: true });
			cpSync(inRoot(file), join(copy, file));
		}
		symlinkSync(inRoot("node_modules"), join(copy, "node_modules"));
		for (const sample of SAMPLES) add(copy, sample);
		addField(copy);
		await ensurePostgres();
		const database = await startPostgres(join(copy, "var", "postgres"), { quiet: true, throwaway: true });
		const env = { ...process.env, TEST_DATABASE_URL: database.url, TEST_KEEPER_URL: database.keeperUrl };
		let failed = 0;
		for (const [name, file, args] of [
			["types", "node_modules/.bin/tsc", ["--noEmit"]],
			["layers", process.execPath, ["scripts/layers.mjs"]],
			["tests", "node_modules/.bin/vitest", ["run", ...TESTS]],
		]) {
			const { status } = spawnSync(file, args, { cwd: copy, env, stdio: ["ignore", "inherit", "inherit"] });
			say(`${status === 0 ? "✓" : "✗"} ${name}`);
			if (status !== 0) failed++;
		}
		process.exitCode = failed ? 1 : 0;
		await database.stop();
	} finally {
		rmSync(copy, { recursive: true, force: true });
	}
});
