import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };

export default defineConfig({
	resolve: { alias },
	test: {
		projects: [
			{ resolve: { alias }, test: { name: "unit", include: ["src/**/*.test.ts", "tests/unit/**/*.test.ts"], testTimeout: 60_000 } },
			{ resolve: { alias }, test: { name: "db", include: ["tests/db/**/*.test.ts"], testTimeout: 60_000, hookTimeout: 120_000, fileParallelism: false } },
		],
	},
});
