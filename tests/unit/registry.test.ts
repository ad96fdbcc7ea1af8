import { existsSync, readdirSync, readFileSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { describe, expect, test } from "vitest";
import { ROLES } from "@/data/organisation/state";
import { PANELS } from "@/features/panels";
import { API_ROUTES, CAPABILITIES, COMMANDS, LOOKUPS, QUERIES } from "@/features/registry";
import { RIGHTS_DOC, rightsDocument } from "@/features/rightsTable";
import type { Capability } from "@/platform/capability";
import type { Context } from "@/platform/context";
import { Fault } from "@/platform/fault";
import { RIGHTS, type Right } from "@/platform/rights";

interface Made {
	(context: Context, ...given: unknown[]): unknown;
	readonly name: string;
	readonly kind: "command" | "lookup" | "query";
	readonly right: Right;
}
const ALL = [...COMMANDS, ...LOOKUPS, ...QUERIES] as unknown as readonly Made[];
const isMade = (value: unknown): value is Made => typeof value === "function" && ["command", "lookup", "query"].includes((value as Made).kind);

describe("folders and lists agree", () => {
	const rows = [...readFileSync("docs/adding.md", "utf8").matchAll(/^\| (.+?) \| `(src\/[\w/]+)` \| `(src\/[\w/.]+)` \|$/gm)];
	/** What helps the others in a folder without being one of them. */
	const HELPERS = /^(rule|settings|usualSetting|since|norms|step|tile|column|filter|happening|dealChanges|letter|Edit|list|index)$/;
	test("docs/adding.md names some kinds", () => expect(rows.length).toBeGreaterThan(4));
	for (const [, what, folder, list] of rows as unknown as [string, string, string, string][]) {
		test(`${what}: each file of ${folder} is a line of ${list}`, () => {
			expect(existsSync(list)).toBe(true);
			const text = readFileSync(list, "utf8");
			const files = readdirSync(folder)
				.filter((file) => /\.tsx?$/.test(file) && !file.includes(".test."))
				.map((file) => basename(file).replace(/\.tsx?$/, ""))
				.filter((name) => !HELPERS.test(name));
			expect(files.length).toBeGreaterThan(3);
			const missing = files.filter((name) => !new RegExp(`from "\\./(${folder.slice(dirname(list).length + 1)}/)?${name}"`).test(text));
			expect(missing).toEqual([]);
		});
	}
	test("whatever a capability’s server makes is in its index", async () => {
		const modules = import.meta.glob("/src/features/*/server/**/*.ts");
		const lost: string[] = [];
		for (const [path, load] of Object.entries(modules)) {
			if (path.includes(".test.")) continue;
			for (const value of Object.values((await load()) as Record<string, unknown>))
				if (isMade(value) && !ALL.includes(value)) lost.push(`${value.name} of ${path}`);
		}
		expect(lost).toEqual([]);
		expect(Object.keys(modules).length).toBeGreaterThan(40);
	});
	test("every capability has a folder, every folder a line", () => {
		const folders = readdirSync("src/features", { withFileTypes: true }).filter((entry) => entry.isDirectory());
		const text = readFileSync("src/features/registry.ts", "utf8");
		for (const { name } of folders) expect(text).toContain(`from "./${name}"`);
		expect(CAPABILITIES).toHaveLength(folders.length);
	});
	test("names, keys, paths and places are each there once", () => {
		const once = (list: readonly string[]) => expect(list.filter((one, i) => list.indexOf(one) !== i)).toEqual([]);
		once(ALL.map((one) => one.name));
		once(PANELS.map((panel) => panel.key));
		once(API_ROUTES.map((call) => `${call.method} ${call.path}`));
		once((CAPABILITIES as readonly Capability[]).flatMap(({ rail }) => rail?.path ?? []));
	});
});

describe("rights", () => {
	test("docs/rights.md is what the lists say; npm run rights writes it", () => expect(readFileSync(RIGHTS_DOC, "utf8")).toBe(rightsDocument()));
	test("every right is asked for by something", () => {
		const asked = new Set([...ALL, ...PANELS].map((one) => one.right));
		expect((Object.keys(RIGHTS) as Right[]).filter((right) => !asked.has(right))).toEqual([]);
	});
	for (const role of ROLES) {
		test(`a ${role} is refused all that the table doesn’t give, before anything is read or parsed`, async () => {
			const context = { actor: { person: { id: "p", name: "Pell", role, team: null }, index: 0 } } as unknown as Context;
			for (const doing of ALL) {
				const outcome = await Promise.resolve()
					.then(() => doing(context, { no: "such input" }))
					.catch((error: unknown) => error);
				const refused = outcome instanceof Fault && outcome.status === 403;
				expect({ [doing.name]: refused }).toEqual({ [doing.name]: !(RIGHTS[doing.right] as readonly string[]).includes(role) });
			}
		});
	}
});

describe("writes", () => {
	/** The mechanism itself; what only reads; sessions, which are nobody's record; an import's progress within its own transaction. */
	const MAY = [
		"src/platform/write.ts",
		"src/data/",
		"src/features/people/server/signIn.ts",
		"src/platform/sessions.ts",
		"src/features/import/server/exportBundle.ts",
		"src/features/import/server/importBundle.ts",
		"src/features/import/server/weekly/rebuild.ts",
		// What is sent out is held while it is, in a transaction that writes nothing but its own fate.
		"src/features/reaching/server/send.ts",
		"src/features/webhooks/server/callHooks.ts",
		// What a thread has found of the past is nobody's record.
		"src/features/patterns/server/find.ts",
		"src/features/patterns/server/learn.ts",
		"src/cli/",
		"src/fakes/",
	];
	test("nothing opens a transaction, touches or writes the audit but the command mechanism", () => {
		const found: string[] = [];
		for (const entry of readdirSync("src", { recursive: true, withFileTypes: true })) {
			const path = join(entry.parentPath ?? entry.path, entry.name);
			if (!/\.tsx?$/.test(path) || path.includes(".test.") || MAY.some((one) => path.startsWith(one))) continue;
			if (/\.transaction\(|\btouch\(|insert\(audit\)|\bdb\s*\.(insert|update|delete)\(/.test(readFileSync(path, "utf8"))) found.push(path);
		}
		expect(found).toEqual([]);
	});
});
