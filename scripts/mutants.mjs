// Changes the program in thousands of small ways, one at a time, and asks of each whether a test notices:
//   npm run mutants            all parts, one after another (hours)
//   npm run mutants -- core    one part; core/time one folder of it
//   npm run mutants -- tasks --every 12   one of every twelve mutants, always the same ones
// Answers how many were noticed, by folder, and writes those that weren't to var/mutants/<part>.json.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { parseArgs } from "node:util";
import { keyOf } from "./lib/mutantChoice.mjs";
import { ensurePostgres } from "./lib/packages.mjs";
import { inRoot } from "./lib/paths.mjs";
import { startPostgres } from "./lib/postgres.mjs";
import { Halt, main, say } from "./lib/say.mjs";

/** Tests that take much longer than others, each with the folders of the core that they are needed for. */
const LONG = { "src/core/patterns/plain.test.ts": ["patterns", "outlook"], "src/core/survey.test.ts": ["."] };

/** The tests of the core: those beside one of its folders, with the examples of its functions; and all others that import something of it. */
function ofCore(name) {
	const files = ["src/core", "tests/unit"].flatMap((folder) =>
		readdirSync(inRoot(folder), { recursive: true })
			.filter((file) => file.endsWith(".test.ts"))
			.map((file) => join(folder, file)),
	);
	const imports = name === "." ? /from "(\.\.?|@\/core)\/\w+"/ : new RegExp(`from "(\\.\\.|@/core)/${name}/`);
	const isBeside = (file) => dirname(file) === join("src/core", name);
	const short = files.filter((file) => LONG[file]?.includes(name) ?? true);
	const beside = short.filter(isBeside);
	return [[...beside, "tests/unit/examples.test.ts"], short.filter((file) => !isBeside(file) && imports.test(readFileSync(inRoot(file), "utf8")))];
}

/** The same tests for every folder of a part. */
const all =
	(...tests) =>
	() => [tests, []];

/** Tests with the database, by their names: those of a part, and for what these miss others that go through it. */
const withDatabase = (own, others) => () =>
	[own, others].map((names) => names.split(" ").map((name) => (name.includes("/") ? `tests/${name}.test.ts` : `tests/db/${name}.test.ts`)));

/** What is changed, by which tests it has to be noticed, and how much of it at least, in percent. */
const PARTS = {
	core: { folder: "src/core", least: 85, tests: ofCore },
	formats: {
		folder: "src/formats",
		least: 80,
		tests: all(
			"src/formats/**/*.test.ts",
			"tests/unit/bundle*.test.ts",
			"tests/unit/weekly*.test.ts",
			"tests/unit/mergedPeople.test.ts",
			"tests/unit/examples.test.ts",
		),
	},
	period: {
		folder: "src/features/period/server",
		least: 70,
		database: true,
		tests: withDatabase(
			"period periodTold triesTold targetsTold figures marks madeOf unit/periodWords",
			"learning boards calendarChange handOver wholeBundle unit/tryWords unit/targetsGrid",
		),
	},
	rounds: {
		folder: "src/features/rounds/server",
		least: 70,
		database: true,
		tests: withDatabase("rounds roundsTold roundPlans roundEdges roundScopes rests briefTold", "brief roundLive unit/minutes"),
	},
	tasks: {
		folder: "src/features/tasks/server",
		least: 70,
		database: true,
		tests: withDatabase("tasks tasksTold clearing acting lists", "desk records calendars trust unit/giving"),
	},
	sheet: {
		folder: "src/features/sheet/server",
		least: 70,
		database: true,
		tests: withDatabase("sheet sheetTold records qualify past yesterday", "buyingRole briefTold desk edit trust unit/closePlan unit/sheetParts"),
	},
};

/** The folders of a part, and the files that lie beside them, each tried by itself: what is done is kept when the rest is not. */
function foldersOf({ folder }) {
	const entries = readdirSync(inRoot(folder), { withFileTypes: true });
	const folders = entries.filter((entry) => entry.isDirectory()).map(({ name }) => ({ name, mutate: `${folder}/${name}/**/*.ts` }));
	return [...folders, { name: ".", mutate: `${folder}/*.ts` }];
}

/** Tries the files named by `mutate` against some tests and answers Stryker’s report; null where there was nothing to try, or a test failed before anything was changed. The checker is told by `env` which mutants. */
function tryAgainst(part, out, mutate, tests, env) {
	const config = inRoot("var", "mutants", "stryker.config.json");
	mkdirSync(inRoot("var", "mutants"), { recursive: true });
	rmSync(out, { force: true });
	writeFileSync(
		config,
		JSON.stringify({
			testRunner: "vitest",
			vitest: { configFile: "vitest.mutants.config.ts" },
			plugins: ["@stryker-mutator/vitest-runner", inRoot("scripts/lib/mutantChoice.mjs")],
			checkers: ["choice"],
			mutate: [mutate, "!src/**/*.test.ts"],
			// A function that a module makes as it is loaded is there before it could be switched; what it does is changed inside it.
			mutator: { excludedMutations: ["ArrowFunction"] },
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
			// The database answers when it can; without it, what takes so long goes round in a circle.
			timeoutMS: part.database ? 60_000 : 6000,
		}),
	);
	const { status } = spawnSync(inRoot("node_modules/.bin/stryker"), ["run", config], { env: { ...env, MUTANT_TESTS: tests.join(",") }, stdio: "inherit" });
	if (status !== 0) say(`${mutate} wasn’t tried: see above. A test that fails before anything is changed stops it.`);
	return existsSync(out) ? JSON.parse(readFileSync(out, "utf8")) : null;
}

/** Tries one folder: by the tests beside it, and what these miss by all others that name it, which take longer. Answers the mutants by what became of them. */
function tryOne(part, name, { mutate }, env) {
	const out = inRoot("var", "mutants", `${part.key}${name === "." ? "" : `-${name}`}.json`);
	const [beside, naming] = part.tests(name);
	const first = beside.length ? tryAgainst(part, out, mutate, beside, env) : null;
	if (first === null && !naming.length) return null;
	if (!naming.length) return first;
	if (first === null) return tryAgainst(part, out, mutate, naming, env);
	const missed = mutantsOf(first).filter(([, mutant]) => isMissed(mutant));
	const only = `${out}.missed`;
	writeFileSync(only, JSON.stringify(missed.map(([key]) => key)));
	const second = missed.length ? tryAgainst(part, `${out}.again`, mutate, naming, { ...env, MUTANT_ONLY: only }) : null;
	const noticed = new Set((second ? mutantsOf(second) : []).filter(([, mutant]) => isNoticed(mutant)).map(([key]) => key));
	for (const [key, mutant] of missed) if (noticed.has(key)) mutant.status = "Killed";
	writeFileSync(out, JSON.stringify(first));
	return first;
}

const isNoticed = ({ status }) => status === "Killed" || status === "Timeout";
const isMissed = ({ status }) => status === "Survived" || status === "NoCoverage";

/** All mutants of a report, each with its key. */
const mutantsOf = ({ files }) => Object.entries(files).flatMap(([file, { mutants }]) => mutants.map((mutant) => [keyOf(file, mutant), mutant]));

/** How many of a report's mutants were noticed and missed. */
function countOf(report) {
	const all = mutantsOf(report).map(([, mutant]) => mutant);
	return { noticed: all.filter(isNoticed).length, missed: all.filter(isMissed).length };
}

const share = ({ noticed, missed }) => (noticed + missed ? `${((100 * noticed) / (noticed + missed)).toFixed(0)}%` : "–");

await main(async () => {
	const { values, positionals: asked } = parseArgs({ allowPositionals: true, options: { every: { type: "string", default: "1" } } });
	const keys = Object.keys(PARTS);
	for (const one of asked) if (!keys.includes(one.split("/")[0])) throw new Halt(`No part is called ${one}; there are ${keys.join(", ")}.`);
	const chosen = keys.filter((key) => !asked.length || asked.some((one) => one.split("/")[0] === key));
	let env = { ...process.env, MUTANT_EVERY: values.every };
	let stop = async () => undefined;
	if (chosen.some((key) => PARTS[key].database) && !process.env.TEST_DATABASE_URL) {
		await ensurePostgres();
		const database = await startPostgres(join(inRoot("var"), "mutants", "postgres"), { quiet: true, throwaway: true });
		env = { ...env, TEST_DATABASE_URL: database.url, TEST_KEEPER_URL: database.keeperUrl };
		stop = database.stop;
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
	await stop();
	say(lines.join("\n"));
	process.exitCode = low ? 1 : 0;
});
