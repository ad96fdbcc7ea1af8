import { describe, expect, test } from "vitest";
// @ts-expect-error: a plain script, without types
import { readImports, violations } from "../../scripts/layers.mjs";

/** What the check says of some made-up files, reached from a page. */
const said = (files: Record<string, string[]>): string[] => violations(new Map(Object.entries({ "src/app/page.tsx": Object.keys(files), ...files })));

describe("the layer check", () => {
	test("lets imports point downwards", () => {
		expect(
			said({ "src/ui/a.tsx": ["src/usecases/b.ts", "react"], "src/usecases/b.ts": ["src/data/c.ts"], "src/data/c.ts": ["src/core/d.ts"], "src/core/d.ts": [] }),
		).toEqual([]);
	});
	test("says when one points upwards", () => {
		expect(said({ "src/core/d.ts": ["src/data/c.ts"], "src/data/c.ts": [] })).toContain("src/core/d.ts imports src/data/c.ts: core may not know data");
		expect(said({ "src/usecases/b.ts": ["src/ui/a.tsx"], "src/ui/a.tsx": [] })).toContain("src/usecases/b.ts imports src/ui/a.tsx: usecases may not know ui");
	});
	test("keeps the database out of the screens, and the program out of the stand-ins", () => {
		expect(said({ "src/ui/a.tsx": ["src/data/c.ts"], "src/data/c.ts": [] })).toHaveLength(1);
		expect(said({ "src/standins/s.ts": ["src/usecases/b.ts"], "src/usecases/b.ts": [] })).toHaveLength(1);
		expect(said({ "src/standins/s.ts": ["src/formats/f.ts"], "src/formats/f.ts": [] })).toEqual([]);
	});
	test("keeps packages and Node out of the core", () => {
		expect(said({ "src/core/d.ts": ["node:fs"] })).toEqual(["src/core/d.ts imports node:fs: the core imports nothing but itself"]);
		expect(said({ "src/core/d.ts": ["zod"] })).toHaveLength(1);
	});
	test("finds circles and dead files", () => {
		expect(said({ "src/ui/a.tsx": ["src/ui/b.tsx"], "src/ui/b.tsx": ["src/ui/a.tsx"] })).toEqual(["a circle: src/ui/a.tsx → src/ui/b.tsx → src/ui/a.tsx"]);
		expect(violations(new Map([["src/ui/a.tsx", []]]))).toEqual(["src/ui/a.tsx is dead: nothing reaches it"]);
	});
	test("reads the project as it is, and finds it sound", () => {
		const imports = readImports() as Map<string, string[]>;
		expect(imports.get("src/core/bridge/bridge.ts")).toContain("src/core/bridge/scope.ts");
		expect(imports.get("src/app/deals/page.tsx")).toContain("src/usecases/table/packedDeals.ts");
		expect(imports.get("src/ui/screens/changes/river/useRiver.ts")).toContain("src/workers/river.ts");
		expect(imports.get("src/instrumentation.ts")).toContain("src/app/server/jobs.ts");
		expect(violations(imports)).toEqual([]);
	});
});
