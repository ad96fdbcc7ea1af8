import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

/** The tests that mutants of one part are tried by: set by `npm run mutants`. */
const include = (process.env.MUTANT_TESTS ?? "src/core/**/*.test.ts,tests/unit/examples.test.ts").split(",");

export default defineConfig({
	resolve: { alias: { "@": fileURLToPath(new URL("./src", import.meta.url)) } },
	test: { include, testTimeout: 120_000, maxWorkers: 1, isolate: false, setupFiles: ["tests/kit/mutants.ts"] },
});
