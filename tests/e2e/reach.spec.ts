import { expect, signIn, test } from "../kit/browser";

// The server goes while a page is open, or becomes another version of the program: what is open and typed stays.
const isRead = (headers: Record<string, string>) => headers.rsc !== undefined && headers["next-router-prefetch"] === undefined;

test("a page that can’t be read anew just now stays with what is open, says so, and is read when it can", async ({ page }) => {
	await signIn(page, "ruth", "/evidence?which=all");
	const cell = page.locator('[data-place="2 1"]');
	await cell.focus();
	const [key, word] = ((await cell.textContent()) ?? "").startsWith("heard") ? ["1", "assumed"] : ["2", "heard"];
	await page.evaluate(() => Object.assign(window, { same: true }));
	let away = true;
	await page.route("**/*", (route) =>
		away && (isRead(route.request().headers()) || route.request().url().endsWith("/healthz")) ? route.abort("failed") : route.fallback(),
	);
	await page.keyboard.press(key as string);
	await expect(page.getByText("The server can’t be reached just now.")).toBeVisible();
	await page.keyboard.press("/");
	await page.getByPlaceholder(/Search/).fill("rack");
	away = false;
	await expect(page.getByText("The server can’t be reached just now.")).toBeHidden();
	await expect(page.getByPlaceholder(/Search/)).toHaveValue("rack");
	expect(await page.evaluate(() => "same" in window)).toBe(true);
	await page.keyboard.press("Escape");
	await expect(cell).toContainText(word as string);
	await page.getByRole("button", { name: "Undo" }).first().click();
	await expect(cell).not.toContainText(word as string);
});

test("a page of an older version stays as it is, and keeps what was typed when it is reloaded", async ({ page }) => {
	await signIn(page, "ruth", "/deals?deal=story-rack");
	await page.getByRole("button", { name: "Give task: Answer what they asked" }).click();
	await page.getByRole("dialog").getByLabel("Task text").fill("Call the buyer on Friday");
	let newer = true;
	await page.route("**/*", async (route) => {
		if (!newer || !isRead(route.request().headers())) return route.fallback();
		const response = await route.fetch();
		await route.fulfill({ response, headers: { ...response.headers(), "x-porch-lamp-build": "another" } });
	});
	// Another person's write has the page read anew.
	const other = await page
		.context()
		.browser()
		?.newContext({ baseURL: new URL(page.url()).origin });
	const second = await other?.newPage();
	if (!second) throw new Error("no second window");
	await signIn(second, "ruth", "/deals?deal=story-rack", { fresh: true });
	await second.getByRole("button", { name: "Give task: Answer what they asked" }).click();
	await second.getByRole("dialog").getByRole("button", { name: "Give task" }).click();
	await expect(second.getByText(/Task given, due/)).toBeVisible();
	await expect(page.getByText("A newer version of the program is running.")).toBeVisible();
	await expect(page.getByRole("dialog").getByLabel("Task text")).toHaveValue("Call the buyer on Friday");
	newer = false;
	await page.getByRole("button", { name: "Reload, keep what I typed" }).click();
	const kept = page.getByRole("status").filter({ hasText: "Typed before the page was reloaded" });
	await expect(kept).toContainText("Call the buyer on Friday");
	await page.locator("html[data-alive]").waitFor();
	await kept.getByRole("button", { name: "Discard" }).click();
	await expect(kept).toBeHidden();
	await second.getByRole("button", { name: "Undo" }).first().click();
	await expect(second.getByText(/Task given, due/)).toBeHidden();
	await other?.close();
});
