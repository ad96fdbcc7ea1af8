import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };

export default defineConfig({
	resolve: { alias },
	test: {
		// Each file has a database of its own.
		maxWorkers: 2,
		projects: [
			{ resolve: { alias }, test: { name: "unit", isolate: false, include: ["src/**/*.test.ts", "tests/unit/**/*.test.ts"], testTimeout: 120_000 } },
			{
				resolve: { alias },
				test: {
					name: "db",
					isolate: false,
					include: ["tests/db/**/*.test.ts"],
					globalSetup: ["tests/kit/template.ts", "tests/kit/threads.ts"],
					testTimeout: 120_000,
					hookTimeout: 120_000,
				},
			},
			// Screens with real figures, below the browser.
			{
				resolve: { alias },
				test: {
					name: "screens",
					environment: "happy-dom",
					isolate: false,
					globalSetup: ["tests/kit/template.ts"],
					include: ["tests/screens/**/*.test.tsx"],
					setupFiles: ["tests/screens/setup.ts"],
					testTimeout: 120_000,
					hookTimeout: 120_000,
				},
			},
		],
	},
});
