import { describe, expect, test } from "vitest";
// @ts-expect-error: a plain script, without types
import { readImports, violations } from "../../scripts/layers.mjs";

type Import = string | { to: string; type: boolean };
/** What the check says of some made-up files, reached from a page. */
const said = (files: Record<string, Import[]>): string[] => violations(new Map(Object.entries({ "src/app/page.tsx": Object.keys(files), ...files })));
const type = (to: string): Import => ({ to, type: true });

describe("the layer check", () => {
	test("lets imports point downwards", () => {
		expect(
			said({
				"src/features/registry.ts": ["src/features/deals/index.ts"],
				"src/features/deals/index.ts": ["src/features/deals/server/a.ts"],
				"src/features/deals/server/a.ts": ["src/platform/b.ts"],
				"src/platform/b.ts": ["src/data/c.ts"],
				"src/data/c.ts": ["src/core/d.ts"],
				"src/core/d.ts": [],
			}),
		).toEqual([]);
	});
	test("says when one points upwards", () => {
		expect(said({ "src/core/d.ts": ["src/data/c.ts"], "src/data/c.ts": [] })).toContain(
			"src/core/d.ts imports src/data/c.ts: the core imports nothing but itself",
		);
		expect(said({ "src/data/c.ts": ["src/platform/b.ts"], "src/platform/b.ts": [] })).toContain(
			"src/data/c.ts imports src/platform/b.ts: data may not know platform",
		);
		expect(said({ "src/platform/b.ts": ["src/features/registry.ts"], "src/features/registry.ts": [] })).toHaveLength(1);
	});
	test("a screen knows its server by types alone, and another’s as well; never the database", () => {
		const server = { "src/features/deals/server/a.ts": [] };
		expect(said({ "src/features/deals/ui/A.tsx": ["src/features/deals/server/a.ts"], ...server })).toContain(
			"src/features/deals/ui/A.tsx imports src/features/deals/server/a.ts: screen may not know server, but its types",
		);
		expect(said({ "src/features/deals/ui/A.tsx": [type("src/features/deals/server/a.ts")], ...server })).toEqual([]);
		expect(said({ "src/features/sheet/ui/A.tsx": [type("src/features/deals/server/a.ts")], ...server })).toEqual([]);
		expect(said({ "src/features/deals/ui/A.tsx": ["src/data/c.ts"], "src/data/c.ts": [] })).toHaveLength(1);
		expect(said({ "src/features/deals/ui/A.tsx": ["src/features/deals/index.ts"], "src/features/deals/index.ts": [] })).toHaveLength(1);
	});
	test("a server reaches another capability through its index, and no screen", () => {
		const other = { "src/features/deals/server/b.ts": [], "src/features/deals/index.ts": [], "src/features/deals/ui/B.tsx": [] };
		const from = (to: Import) => said({ "src/features/tasks/server/a.ts": [to], ...other });
		expect(from("src/features/deals/index.ts")).toEqual([]);
		expect(from("src/features/deals/server/b.ts")).toEqual([
			"src/features/tasks/server/a.ts imports src/features/deals/server/b.ts: another capability’s server is reached through its index.ts",
		]);
		expect(from(type("src/features/deals/server/b.ts"))).toHaveLength(1);
		expect(from("src/features/deals/ui/B.tsx")).toHaveLength(1);
	});
	test("a capability keeps to its shape, and its index knows no screen", () => {
		expect(said({ "src/features/deals/helpers/a.ts": [] })).toEqual([
			"src/features/deals/helpers/a.ts: a capability has server/, ui/, panels/, table/, columns/, filters/, happenings/ and index.ts, and nothing else",
		]);
		expect(said({ "src/features/deals/index.ts": ["src/features/deals/ui/A.tsx"], "src/features/deals/ui/A.tsx": [] })).toHaveLength(1);
		const panel = { "src/features/people/panels/keys.tsx": ["src/features/people/ui/K.tsx", "src/features/people/server/k.ts"] };
		expect(said({ ...panel, "src/features/people/ui/K.tsx": [], "src/features/people/server/k.ts": [] })).toEqual([]);
	});
	test("keeps what is shared from what is a capability’s, and the program from the stand-ins", () => {
		expect(said({ "src/ui/a.tsx": ["src/features/deals/ui/A.tsx"], "src/features/deals/ui/A.tsx": [] })).toHaveLength(1);
		expect(said({ "src/ui/a.tsx": ["src/platform/b.ts"], "src/platform/b.ts": [] })).toHaveLength(1);
		expect(said({ "src/ui/a.tsx": [type("src/platform/b.ts")], "src/platform/b.ts": [] })).toEqual([]);
		expect(said({ "src/fakes/s.ts": ["src/platform/b.ts"], "src/platform/b.ts": [] })).toHaveLength(1);
		expect(said({ "src/fakes/s.ts": ["src/formats/f.ts"], "src/formats/f.ts": [] })).toEqual([]);
	});
	test("keeps packages and Node out of the core", () => {
		expect(said({ "src/core/d.ts": ["node:fs"] })).toEqual(["src/core/d.ts imports node:fs: the core imports nothing but itself"]);
		expect(said({ "src/core/d.ts": ["zod"] })).toHaveLength(1);
	});
	test("finds circles, those of types too, and dead files", () => {
		expect(said({ "src/ui/a.tsx": ["src/ui/b.tsx"], "src/ui/b.tsx": ["src/ui/a.tsx"] })).toEqual(["a circle: src/ui/a.tsx → src/ui/b.tsx → src/ui/a.tsx"]);
		expect(said({ "src/ui/a.tsx": ["src/ui/b.tsx"], "src/ui/b.tsx": [type("src/ui/a.tsx")] })).toHaveLength(1);
		expect(violations(new Map([["src/ui/a.tsx", []]]))).toEqual(["src/ui/a.tsx is dead: nothing reaches it"]);
	});
	test("keeps capabilities in their order, types too", () => {
		const [list, sheet] = ["src/features/deals/ui/List.tsx", "src/features/sheet/ui/Sheet.tsx"];
		expect(said({ [list]: [sheet], [sheet]: [] })).toEqual([`${list} imports ${sheet}: deals comes before sheet, and may not know it`]);
		expect(said({ [list]: [type(sheet)], [sheet]: [] })).toHaveLength(1);
		expect(said({ [sheet]: [list, type(list)], [list]: [] })).toEqual([]);
		expect(said({ "src/features/unheard/ui/A.tsx": [list], [list]: [] })[0]).toContain("every capability has its place");
	});
	test("reads the project as it is, and finds it sound", () => {
		const imports = readImports() as Map<string, { to: string; type: boolean }[]>;
		expect(imports.get("src/core/bridge/bridge.ts")).toContainEqual({ to: "src/core/bridge/scope.ts", type: false });
		expect(imports.get("src/app/deals/page.tsx")).toContainEqual({ to: "src/features/deals/server/packedDeals.ts", type: false });
		expect(imports.get("src/features/sheet/ui/SheetPanel.tsx")).toContainEqual({ to: "src/features/sheet/server/sheetView.ts", type: true });
		expect(imports.get("src/features/changes/ui/river/useRiver.ts")).toContainEqual({ to: "src/workers/river.ts", type: false });
		expect(imports.get("src/instrumentation.ts")).toContainEqual({ to: "src/app/server/jobs.ts", type: false });
		expect(violations(imports)).toEqual([]);
	});
});
