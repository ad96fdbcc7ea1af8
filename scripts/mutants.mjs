// Changes the program in thousands of small ways, one at a time, and asks of each whether a test notices:
//   npm run mutants            all parts, one after another (hours)
//   npm run mutants -- core    one part; core/time one folder of it
// Answers how many were noticed, by folder, and writes those that weren't to var/mutants/<part>.json.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { ensurePostgres } from "./lib/packages.mjs";
import { inRoot } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { Halt, main, say } from "./lib/say.mjs";

const DB = (...names) => names.map((name) => `tests/db/${name}.test.ts`);

/** Tests that take much longer than others, each with the one folder of the core that they are needed for. */
const LONG = { "src/core/patterns/plain.test.ts": "patterns", "src/core/inspectAgain.test.ts": "." };

/** The tests of the core that import something of one of its folders, and the examples of its functions. */
function naming(name) {
	const files = ["src/core", "tests/unit"].flatMap((folder) =>
		readdirSync(inRoot(folder), { recursive: true })
			.filter((file) => file.endsWith(".test.ts"))
			.map((file) => join(folder, file)),
	);
	const imports = name === "." ? /from "(\.\.?|@\/core)\/\w+"/ : new RegExp(`from "(\\.\\.|@/core)/${name}/`);
	const beside = (file) => dirname(file) === join("src/core", name);
	const chosen = files.filter((file) => (LONG[file] ?? name) === name && (beside(file) || imports.test(readFileSync(inRoot(file), "utf8"))));
	return [...new Set([...chosen, "tests/unit/examples.test.ts"])];
}

/** What is changed, by which tests it has to be noticed, and how much of it at least, in percent. */
const PARTS = {
	core: { folder: "src/core", least: 85, tests: naming },
	formats: {
		folder: "src/formats",
		least: 80,
		tests: ["src/formats/**/*.test.ts", "tests/unit/bundle.test.ts", "tests/unit/weekly*.test.ts", "tests/unit/examples.test.ts"],
	},
	period: { folder: "src/features/period/server", least: 70, database: true, tests: DB("period", "figures", "marks", "madeOf", "learning") },
	rounds: { folder: "src/features/rounds/server", least: 70, database: true, tests: DB("rounds", "roundEdges", "roundScopes", "rests", "brief") },
	tasks: { folder: "src/features/tasks/server", least: 70, database: true, tests: DB("tasks", "clearing", "acting", "lists") },
	sheet: { folder: "src/features/sheet/server", least: 70, database: true, tests: DB("sheet", "records", "qualify", "past", "yesterday") },
};

/** The folders of a part, and the files that lie beside them, each tried by itself: what is done is kept when the rest is not. */
function foldersOf({ folder }) {
	const entries = readdirSync(inRoot(folder), { withFileTypes: true });
	const folders = entries.filter((entry) => entry.isDirectory()).map(({ name }) => ({ name, mutate: `${folder}/${name}/**/*.ts` }));
	return [...folders, { name: ".", mutate: `${folder}/*.ts` }];
}

/** Tries one folder and answers its mutants by what became of them. */
function tryOne(part, name, { mutate }, env) {
	const out = inRoot("var", "mutants", `${part.key}${name === "." ? "" : `-${name}`}.json`);
	const config = inRoot("var", "mutants", "stryker.config.json");
	mkdirSync(inRoot("var", "mutants"), { recursive: true });
	writeFileSync(
		config,
		JSON.stringify({
			testRunner: "vitest",
			vitest: { configFile: "vitest.mutants.config.ts" },
			plugins: ["@stryker-mutator/vitest-runner"],
			mutate: [mutate, "!src/**/*.test.ts"],
			coverageAnalysis: "perTest",
			// What runs once as a module is loaded can't be switched while tests run.
			ignoreStatic: true,
			concurrency: Number(process.env.MUTANTS_AT_ONCE ?? (part.database ? 1 : 2)),
			reporters: ["json", "progress-append-only"],
			jsonReporter: { fileName: out },
			tempDirName: "var/stryker",
			// Its reader of tsconfig.json needs TypeScript's old programming interface; nothing here needs that file rewritten.
			tsconfigFile: "none",
			ignorePatterns: ["var", ".next", "docs/screenshots"],
			timeoutMS: 6000,
		}),
	);
	const { status } = spawnSync(inRoot("node_modules/.bin/stryker"), ["run", config], {
		env: { ...env, MUTANT_TESTS: (typeof part.tests === "function" ? part.tests(name) : part.tests).join(",") },
		stdio: "inherit",
	});
	return status === 0 || existsSync(out) ? JSON.parse(readFileSync(out, "utf8")) : null;
}

const NOTICED = ["Killed", "Timeout"];
const MISSED = ["Survived", "NoCoverage"];

/** How many of a report's mutants were noticed and missed. */
function countOf(report) {
	const all = Object.values(report.files).flatMap((file) => file.mutants.map(({ status }) => status));
	const count = (kinds) => all.filter((status) => kinds.includes(status)).length;
	return { noticed: count(NOTICED), missed: count(MISSED) };
}

const share = ({ noticed, missed }) => (noticed + missed ? `${((100 * noticed) / (noticed + missed)).toFixed(0)}%` : "–");

await main(async () => {
	const asked = process.argv.slice(2);
	const keys = Object.keys(PARTS);
	for (const one of asked) if (!keys.includes(one.split("/")[0])) throw new Halt(`No part is called ${one}; there are ${keys.join(", ")}.`);
	const chosen = keys.filter((key) => !asked.length || asked.some((one) => one.split("/")[0] === key));
	let env = process.env;
	if (chosen.some((key) => PARTS[key].database) && !process.env.TEST_DATABASE_URL) {
		await ensurePostgres();
		const database = await startPostgres(join(inRoot("var"), "mutants", "postgres"), { quiet: true, throwaway: true });
		env = { ...process.env, TEST_DATABASE_URL: database.url, TEST_KEEPER_URL: database.keeperUrl };
	}
	const lines = ["| part | folder | noticed | missed | share |", "|---|---|--:|--:|--:|"];
	let low = false;
	for (const key of chosen) {
		const part = { key, ...PARTS[key] };
		const whole = { noticed: 0, missed: 0 };
		for (const folder of foldersOf(part)) {
			if (asked.length && !asked.includes(key) && !asked.includes(`${key}/${folder.name}`)) continue;
			const report = tryOne(part, folder.name, folder, env);
			if (!report) continue;
			const count = countOf(report);
			if (!count.noticed && !count.missed) continue;
			whole.noticed += count.noticed;
			whole.missed += count.missed;
			lines.push(`| ${key} | ${folder.name} | ${count.noticed} | ${count.missed} | ${share(count)} |`);
			say(lines.at(-1));
		}
		lines.push(`| **${key}** | at least ${part.least}% | ${whole.noticed} | ${whole.missed} | **${share(whole)}** |`);
		low ||= whole.noticed * 100 < part.least * (whole.noticed + whole.missed);
	}
	say(lines.join("\n"));
	process.exitCode = low ? 1 : 0;
});
