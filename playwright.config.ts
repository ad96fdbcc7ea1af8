import { defineConfig } from "@playwright/test";

export default defineConfig({
	testDir: "tests/e2e",
	workers: 1,
	// Three parts and their programs share the machine: what fails is tried once more, and said by name at the end if that helped.
	retries: 1,
	// Wide: a machine that others use too can be four times as slow as it was a moment ago.
	timeout: 240_000,
	expect: { timeout: 40_000 },
	reporter: [["list"], ["json", { outputFile: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE ?? "test-results/e2e.json" }]],
	outputDir: "test-results/e2e",
	use: {
		baseURL: process.env.BASE_URL ?? "http://127.0.0.1:3000",
		viewport: { width: 1280, height: 800 },
		locale: "en-GB",
		timezoneId: "Europe/Berlin",
		// What still slides in while a busy machine draws few frames can slip away between the press of a button and its release.
		contextOptions: { reducedMotion: "reduce" },
		launchOptions: {
			executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
			args: [
				"--no-sandbox",
				"--disable-gpu",
				"--disable-quic",
				"--no-first-run",
				"--disable-background-networking",
				"--disable-component-update",
				"--disable-sync",
			],
		},
	},
});
