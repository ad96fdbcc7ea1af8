// Holds the architecture: imports point downwards, capabilities keep to their shape, the core is pure, nothing goes in
// circles, nothing is dead.
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { root } from "./lib/paths.mjs";

/** From the top floor down. A layer may know those below it, but for what EXCEPT takes away. */
const LAYERS = [
	"host",
	"threads",
	"cli",
	"app",
	"registry",
	"panel",
	"index",
	"screen",
	"table",
	"ui",
	"workers",
	"server",
	"platform",
	"data",
	"formats",
	"fakes",
	"config",
	"core",
];

/** What a layer may not know although it lies below. */
const EXCEPT = {
	screen: ["server", "platform", "data", "fakes", "index", "config"],
	ui: ["server", "platform", "data", "fakes", "config"],
	workers: ["server", "platform", "data", "formats", "fakes", "config"],
	table: ["workers", "server", "platform", "data", "fakes", "config"],
	index: ["ui", "screen", "table", "workers"],
};
/** What a layer may know although it lies above, or beside: stand-ins write the open formats; a capability’s server knows others by their index. */
const ALSO = { fakes: ["formats"], server: ["index", "table"], index: ["index"] };
/** Types tell no secrets: a screen may know its server's by name, and that of what surrounds it. */
const BY_TYPE = { screen: ["server", "platform", "index"], ui: ["platform"], table: ["server", "platform", "data"], index: ["table"] };

/** The capabilities, first those that know none of the others. Each may know those before it, their types too; what a later one shows on an earlier one's screen comes in by a slot. */
const CAPABILITIES = [
	"deals",
	"evidence",
	"attachments",
	"intake",
	"accounts",
	"tasks",
	"sheet",
	"changes",
	"period",
	"rounds",
	"patterns",
	"closes",
	"setup",
	"people",
	"import",
	"search",
	"boards",
	"desk",
	"calendars",
	"webhooks",
	"reaching",
	"sendings",
	"feeds",
	"tables",
	"begin",
];

/** The language's own calendar, until it comes with it. */
const CORE_PACKAGES = ["temporal-polyfill"];

const ENTRY = /^src\/(app\/(?!server\/)|cli\/|(host|threads|fakes\/mailbox|fakes\/provider)\/main\.ts$|instrumentation\.ts$)/;

/** The layer a file is on; null for the two files that the framework wants beside the folders. */
export function layerOf(file) {
	if (/^src\/features\/\w+\.tsx?$/.test(file)) return "registry";
	const inside = /^src\/features\/\w+\/(\w+)(\/|\.)/.exec(file);
	if (!inside) return /^src\/(\w+)\//.exec(file)?.[1] ?? null;
	return (
		{ server: "server", ui: "screen", panels: "panel", happenings: "server", index: "index", table: "table", columns: "table", filters: "table" }[inside[1]] ??
		"unknown"
	);
}
const capabilityOf = (file) => /^src\/features\/(\w+)\//.exec(file)?.[1] ?? null;

const STATEMENT = /(?:^|\n)\s*(?:import|export)\s+(type\s+)?([^"'`;]*?\sfrom\s+)?["']([^"']+)["']/g;
const LATER = /\bimport\(\s*["']([^"']+)["']\s*\)/g;
/** A worker is named by its address. */
const WORKER = /new URL\(\s*["']([^"']+\.ts)["'],\s*import\.meta\.url/g;

/** Whether a statement brings in nothing but types. */
function onlyTypes(typed, names) {
	if (typed) return true;
	const braces = /^\{([^}]*)\}\s*from\s+$/.exec((names ?? "").trimStart());
	return braces ? braces[1].split(",").every((name) => !name.trim() || /^type\s/.test(name.trim())) : false;
}

/** Every source file with what it imports: own files by path, packages by name, each with whether it is types alone. */
export function readImports(base = root) {
	const imports = new Map();
	for (const entry of readdirSync(join(base, "src"), { recursive: true, withFileTypes: true })) {
		const full = join(entry.parentPath ?? entry.path, entry.name);
		if (!/\.tsx?$/.test(entry.name) || /\.test\.tsx?$/.test(entry.name)) continue;
		const text = readFileSync(full, "utf8").replace(/\/\*[\s\S]*?\*\//g, "");
		const found = [...text.matchAll(STATEMENT)].map(([, typed, names, name]) => ({ name, type: onlyTypes(typed, names) }));
		for (const [, name] of [...text.matchAll(WORKER), ...text.matchAll(LATER)]) found.push({ name, type: false });
		imports.set(
			relative(base, full),
			found.map(({ name, type }) => ({ to: resolveImport(base, full, name), type })),
		);
	}
	return imports;
}

function resolveImport(base, from, name) {
	if (!name.startsWith(".") && !name.startsWith("@/")) return name;
	const target = name.startsWith("@/") ? join(base, "src", name.slice(2)) : resolve(dirname(from), name);
	const found = [target, `${target}.ts`, `${target}.tsx`, `${target}/index.ts`].find((path) => existsSync(path) && /\.\w+$/.test(path));
	return found ? relative(base, found) : name;
}

/** What breaks the rules, in words. `imports` as `readImports` gives them; a bare name is short for one that isn't a type's. */
export function violations(given) {
	const imports = new Map([...given].map(([file, targets]) => [file, targets.map((one) => (typeof one === "string" ? { to: one, type: false } : one))]));
	const found = [];
	for (const [file, targets] of imports) {
		if (layerOf(file) === "unknown")
			found.push(`${file}: a capability has server/, ui/, panels/, table/, columns/, filters/, happenings/ and index.ts, and nothing else`);
		for (const { to, type } of targets) {
			const why = trespass(file, to, type);
			if (why) found.push(`${file} imports ${to}: ${why}`);
		}
	}
	return [...found, ...circles(imports), ...unreached(imports)];
}

/** Why a file may not import another; null where it may. */
function trespass(file, to, type) {
	const [layer, below] = [layerOf(file), layerOf(to)];
	if (layer === "core" && !to.startsWith("src/core/") && !CORE_PACKAGES.includes(to)) return "the core imports nothing but itself";
	if (layer === "table" && to.startsWith("next/")) return "columns are also read in threads, which the framework isn’t part of";
	if (!layer || !below || layer === "unknown" || below === "unknown") return null;
	const elsewhere = capabilityOf(file) !== null && capabilityOf(to) !== null && capabilityOf(file) !== capabilityOf(to);
	if (elsewhere) {
		const [from, at] = [capabilityOf(file), capabilityOf(to)].map((one) => CAPABILITIES.indexOf(one));
		if (from < 0 || at < 0) return "every capability has its place in CAPABILITIES of scripts/layers.mjs";
		if (from < at) return `${capabilityOf(file)} comes before ${capabilityOf(to)}, and may not know it`;
	}
	if (elsewhere && below === "server" && !(type && layer === "screen")) return "another capability’s server is reached through its index.ts";
	if (type && BY_TYPE[layer]?.includes(below)) return null;
	if (layer === below || ALSO[layer]?.includes(below)) return null;
	const up = LAYERS.indexOf(below) < LAYERS.indexOf(layer);
	return up || EXCEPT[layer]?.includes(below)
		? `${layer} may not know ${below}${type ? "" : below === "server" && layer === "screen" ? ", but its types" : ""}`
		: null;
}

function circles(imports) {
	const found = [];
	const state = new Map();
	const visit = (file, path) => {
		if (state.get(file) === "done") return;
		if (path.includes(file)) return void found.push(`a circle: ${[...path.slice(path.indexOf(file)), file].join(" → ")}`);
		for (const { to } of imports.get(file) ?? []) if (imports.has(to)) visit(to, [...path, file]);
		state.set(file, "done");
	};
	for (const file of imports.keys()) visit(file, []);
	return found;
}

function unreached(imports) {
	const reached = new Set();
	const visit = (file) => {
		if (reached.has(file) || !imports.has(file)) return;
		reached.add(file);
		for (const { to } of imports.get(file)) visit(to);
	};
	// The core is a library of its own: what has a test beside it stands by itself.
	const tested = (file) => layerOf(file) === "core" && existsSync(join(root, file.replace(/\.ts$/, ".test.ts")));
	for (const file of imports.keys()) if (ENTRY.test(file) || tested(file)) visit(file);
	return [...imports.keys()].filter((file) => !reached.has(file)).map((file) => `${file} is dead: nothing reaches it`);
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? "").href) {
	const imports = readImports();
	const found = violations(imports);
	process.stdout.write(found.length ? `${found.join("\n")}\n` : `${imports.size} files, all imports point downwards\n`);
	process.exitCode = found.length ? 1 : 0;
}
