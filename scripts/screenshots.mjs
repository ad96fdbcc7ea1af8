// Renews docs/screenshots from the demo company on its fixed day.
import { spawn } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { ensureBuild } from "./lib/build.mjs";
import { CHROMIUM, ensureChromium, ensureNpm, ensurePostgres } from "./lib/packages.mjs";
import { inRoot, root } from "./lib/paths.mjs";
import { freeFrom } from "./lib/ports.mjs";
import { removeData } from "./lib/postgres.mjs";
import { main, say } from "./lib/say.mjs";

/** One picture of each main view: who looks, at what, how wide. */
const PICTURES = [
	{ name: "period", who: "ruth", path: "/period", act: untilForetold },
	{ name: "period-tries", who: "ruth", path: "/period/tries", act: slip },
	{ name: "close", who: "ruth", path: "/period/closed", act: untilDrawn },
	{ name: "board", who: "ruth", path: "/period/boards", act: makeBoard, theme: "dark" },
	{ name: "deals", who: "ruth", path: "/deals" },
	{ name: "picture", who: "ruth", path: "/deals?drawn=true", act: untilDeals },
	{ name: "deal", who: "ruth", path: "/deals/story-rack" },
	{ name: "evidence", who: "ruth", path: "/evidence" },
	{ name: "accounts", who: "ruth", path: "/accounts?order=open" },
	{ name: "account", who: "ruth", path: "/accounts/acc-004" },
	{ name: "care", who: "ruth", path: "/accounts/care" },
	{ name: "changes", who: "ruth", path: "/changes" },
	{ name: "changes-river", who: "helena", path: "/changes?show=river&due=any&at=2026-10-29" },
	{ name: "outlook", who: "ruth", path: "/patterns", act: untilMoved },
	{ name: "round", who: "ruth", path: "/rounds", act: holdRound },
	{ name: "patterns", who: "helena", path: "/patterns?show=foretell&whose=all&open=flag:no-signatory:with" },
	{ name: "tasks-follow", who: "ruth", path: "/tasks?show=follow" },
	{ name: "desk", who: "ines", path: "/desk" },
	{ name: "desk-phone", who: "ines", path: "/desk", width: 390, height: 844 },
];

async function slip(page) {
	const pushes = page.getByRole("button", { name: /^push / });
	for (const n of [0, 1]) await pushes.nth(n).click();
	await page.getByLabel("Name of the try").fill("The two largest slip");
	await page.evaluate(() => scrollTo(0, 0));
}

async function makeBoard(page) {
	await page.getByLabel("Name of the new board").fill("My Mondays");
	await page.getByRole("button", { name: "Create with a few tiles" }).click();
	await page.getByRole("heading", { name: "My Mondays" }).waitFor();
	await page.locator(".pace .recharts-line").first().waitFor();
}

async function untilDrawn(page) {
	await page.locator(".close-won .recharts-line-curve, .close-won path").first().waitFor();
}

async function untilDeals(page) {
	await page.getByText(/^Of the largest deals/).waitFor();
	await page.getByText("chances are being computed").waitFor({ state: "hidden" });
}

async function untilMoved(page) {
	await page.getByText(/the expected total moved from/).waitFor();
}

async function untilForetold(page) {
	await page.getByText(/Most likely about/).waitFor();
}

async function holdRound(page) {
	await page.getByRole("button", { name: /^Start “/ }).click();
	await page.waitForURL(/\/rounds\/round-/);
	for (const [at, key] of [
		[0, "1"],
		[1, "2"],
		[2, "1"],
	]) {
		await page
			.getByText(new RegExp(`^${at}\\s+of`))
			.first()
			.waitFor();
		await page.keyboard.press(key);
	}
	await page
		.getByText(/^3\s+of/)
		.first()
		.waitFor();
	await page.getByRole("article").getByRole("heading", { name: "Deck oven line refit" }).waitFor();
	await page.getByRole("article").getByRole("heading", { name: "Why it’s lit" }).waitFor();
}

await main(async () => {
	await ensurePostgres();
	await ensureChromium();
	await ensureNpm();
	await ensureBuild();
	const data = inRoot("var", "screenshots");
	removeData(data);
	const port = await freeFrom(3200);
	const base = `http://127.0.0.1:${port}`;
	const env = { ...process.env, PORCH_LAMP_DATA: data, PORCH_LAMP_TODAY: "2026-11-24", PORT: String(port), DATABASE_URL: "" };
	const server = spawn(process.execPath, [inRoot("scripts/start.mjs")], { cwd: root, stdio: ["ignore", "ignore", "inherit"], env });
	const ended = new Promise((resolve) => server.once("exit", resolve));
	try {
		for (let up = false; !up; ) {
			up = await fetch(`${base}/healthz`).then(
				(answer) => answer.ok,
				() => false,
			);
			if (server.exitCode !== null) throw new Error("the program did not start");
			await new Promise((resolve) => setTimeout(resolve, 300));
		}
		await take(base);
	} finally {
		server.kill("SIGINT");
		await ended;
	}
});

async function take(base) {
	const { chromium } = await import("@playwright/test");
	const browser = await chromium.launch({
		executablePath: CHROMIUM,
		args: [
			"--lang=en-GB",
			"--no-sandbox",
			"--disable-gpu",
			"--disable-quic",
			"--no-first-run",
			"--disable-background-networking",
			"--disable-component-update",
			"--disable-sync",
		],
	});
	const folder = inRoot("docs", "screenshots");
	// Some alone, where they are named: the others stay as they are.
	const named = process.argv.slice(2);
	if (!named.length) rmSync(folder, { recursive: true, force: true });
	mkdirSync(folder, { recursive: true });
	for (const { name, who, path, act, theme = "light", width = 1280, height = 800 } of PICTURES) {
		if (named.length && !named.includes(name)) continue;
		const context = await browser.newContext({ viewport: { width, height }, locale: "en-GB", timezoneId: "Europe/Berlin", reducedMotion: "reduce" });
		await context.addCookies([{ name: "porch_lamp_theme", value: theme, url: base }]);
		const page = await context.newPage();
		await page.goto(`${base}/sign-in?to=${encodeURIComponent(path)}`);
		await page.getByLabel("E-mail address").fill(`${who}@emberwick.example`);
		await page.getByLabel("Password").fill("porch-light");
		await page.getByRole("button", { name: "Sign in" }).click();
		await page.waitForURL((url) => url.pathname !== "/sign-in");
		await page.waitForLoadState("networkidle");
		await act?.(page);
		await page.mouse.move(Math.round(width * 0.75), 30);
		await page.waitForTimeout(400);
		await page.screenshot({ path: `${folder}/${name}.png` });
		say(`  ${name}.png`);
		await context.close();
	}
	await browser.close();
}
