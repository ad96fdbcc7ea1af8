// Holds the architecture: imports point downwards, the core is pure, nothing goes in circles, nothing is dead.
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { root } from "./lib/paths.mjs";

const LAYERS = ["cli", "app", "ui", "workers", "usecases", "data", "formats", "standins", "core"];
/** What a layer may not import although it lies below: stand-ins know only open formats and the core. */
const EXTRA = { ui: ["data", "standins"], standins: ["cli", "app", "ui", "workers", "usecases", "data"] };
/** Stand-ins write the open formats, so they may look up to them. */
const ALLOWED = { standins: ["formats"] };
const ENTRY = /^src\/(app\/(?!server\/)|cli\/|(proxy|instrumentation)\.ts$)/;
const LATER = /\bimport\(\s*["']([^"']+)["']\s*\)/g;
const IMPORT = /(?:^|\n)\s*(?:import|export)\s+(?:type\s+)?(?:[^"'`;]*?\sfrom\s+)?["']([^"']+)["']/g;

/** A worker is named by its address. */
const WORKER = /new URL\(\s*["']([^"']+\.ts)["'],\s*import\.meta\.url/g;

const layerOf = (file) => file.match(/^src\/(\w+)\//)?.[1] ?? null;

/** Every source file with what it imports: own files by path, packages by name. */
export function readImports(base = root) {
	const imports = new Map();
	for (const entry of readdirSync(join(base, "src"), { recursive: true, withFileTypes: true })) {
		const full = join(entry.parentPath ?? entry.path, entry.name);
		if (!/\.tsx?$/.test(entry.name) || /\.test\.tsx?$/.test(entry.name)) continue;
		const text = readFileSync(full, "utf8");
		imports.set(
			relative(base, full),
			[...text.matchAll(IMPORT), ...text.matchAll(WORKER), ...text.matchAll(LATER)].map(([, name]) => resolveImport(base, full, name)),
		);
	}
	return imports;
}

function resolveImport(base, from, name) {
	if (!name.startsWith(".") && !name.startsWith("@/")) return name;
	const target = name.startsWith("@/") ? join(base, "src", name.slice(2)) : resolve(dirname(from), name);
	const found = [target, `${target}.ts`, `${target}.tsx`].find((path) => existsSync(path) && /\.\w+$/.test(path));
	return found ? relative(base, found) : name;
}

/** What breaks the rules, in words. */
export function violations(imports) {
	const found = [];
	for (const [file, targets] of imports) {
		const layer = layerOf(file);
		for (const target of targets) {
			const below = layerOf(target);
			const up = below && LAYERS.indexOf(below) < LAYERS.indexOf(layer) && !ALLOWED[layer]?.includes(below);
			if (layer && (up || EXTRA[layer]?.includes(below))) found.push(`${file} imports ${target}: ${layer} may not know ${below}`);
			if (layer === "core" && !target.startsWith("src/core/")) found.push(`${file} imports ${target}: the core imports nothing but itself`);
		}
	}
	return [...found, ...circles(imports), ...unreached(imports)];
}

function circles(imports) {
	const found = [];
	const state = new Map();
	const visit = (file, path) => {
		if (state.get(file) === "done") return;
		if (path.includes(file)) return void found.push(`a circle: ${[...path.slice(path.indexOf(file)), file].join(" → ")}`);
		for (const target of imports.get(file) ?? []) if (imports.has(target)) visit(target, [...path, file]);
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
		for (const target of imports.get(file)) visit(target);
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
