import { build } from "esbuild";
import { expect, test } from "vitest";

test("what the framework doesn’t build asks for nothing of the framework’s own requests, which it can’t load", async () => {
	for (const entry of ["src/host/main.ts", "src/threads/main.ts"]) {
		const { metafile } = await build({
			entryPoints: [entry],
			bundle: true,
			write: false,
			metafile: true,
			platform: "node",
			format: "esm",
			packages: "external",
			jsx: "automatic",
			loader: { ".css": "empty" },
			outdir: "none",
			logLevel: "silent",
		});
		const asked = Object.values(metafile.outputs).flatMap(({ imports }) => imports.map(({ path }) => path));
		expect(asked.length).toBeGreaterThan(5);
		expect(asked.filter((path) => path.startsWith("next/"))).toEqual([]);
	}
});
