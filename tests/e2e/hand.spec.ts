import { readFile } from "node:fs/promises";
import { dealRow, expect, signIn, test } from "../kit/browser";

// What is in the hand of whoever works with it: focus, keys, going back, the system's theme, a lost connection, files.

test("what can’t be sent says so, stays as it was typed, and is sent once when asked again", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	const row = dealRow(page, "Cold proofing trial").first();
	await row.getByTitle("Change the close date").click();
	const box = page.getByRole("dialog");
	await box.getByLabel("Close date").fill("2027-01-22");
	await box.getByLabel("Why does it close later?").fill("Snow on the pass");
	await page.route("**/*", (route) => route.abort("failed"));
	await box.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText("Couldn’t send")).toBeVisible();
	await expect(box.getByLabel("Why does it close later?")).toHaveValue("Snow on the pass");
	await page.unroute("**/*");
	await box.getByRole("button", { name: "Save" }).click();
	await expect(page.getByText(/close date .* → 22 Jan 2027/)).toBeVisible();
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByText("Undone.")).toBeVisible();
	await page.route("**/*", (route) => route.abort("failed"));
	await page.getByRole("button", { name: "Sign out" }).click();
	await expect(page.getByText("You are still signed in: the request failed.")).toBeVisible();
});

test("a sheet opened by a key takes the focus and gives it back; a key that opens a window isn’t typed into it", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	const row = page.getByRole("row").nth(1);
	await page.keyboard.press("j");
	await page.keyboard.press("Enter");
	const sheet = page.getByRole("complementary");
	await expect(sheet).toBeVisible();
	await expect.poll(() => sheet.evaluate((panel) => panel.contains(document.activeElement))).toBe(true);
	await page.keyboard.press("Escape");
	await expect(sheet).toHaveCount(0);
	await expect.poll(() => page.evaluate(() => document.activeElement?.closest("[role=row], body")?.getAttribute("role") ?? "body")).not.toBe("complementary");
	await expect(row).toBeVisible();
	await page.keyboard.press("x");
	await page.keyboard.press("t");
	await expect(page.getByLabel("Task text")).toBeFocused();
	await expect(page.getByLabel("Task text")).toHaveValue("");
});

test("going back undoes a filter", async ({ page }) => {
	await signIn(page, "ruth", "/deals");
	const all = await page.locator(".deals-foot b").first().textContent();
	await page.getByRole("button", { name: /^\d+ overdue/ }).click();
	await expect(page).toHaveURL(/flags=/);
	await expect(page.locator(".deals-foot b").first()).not.toHaveText(all ?? "");
	await page.goBack();
	await expect(page).not.toHaveURL(/flags=/);
	await expect(page.locator(".deals-foot b").first()).toHaveText(all ?? "");
});

test("the theme follows the system until one is chosen", async ({ page }) => {
	await page.emulateMedia({ colorScheme: "dark" });
	await signIn(page, "ruth", "/tasks");
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
	await page.emulateMedia({ colorScheme: "light" });
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "light");
	await page.getByRole("button", { name: "Day or dusk" }).click();
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
	await page.emulateMedia({ colorScheme: "dark" });
	await page.emulateMedia({ colorScheme: "light" });
	await expect(page.locator("html")).toHaveAttribute("data-bs-theme", "dark");
	await page.context().clearCookies({ name: "porch_lamp_theme" });
});

test("after a deal comes the next lit one", async ({ page }) => {
	await signIn(page, "ruth", "/deals?deal=story-rack");
	const sheet = page.getByRole("complementary");
	await expect(sheet).toContainText("Rack ovens, three sites");
	await sheet.getByRole("button", { name: "Next lit deal" }).click();
	await expect(sheet).toContainText("New plant, phase one");
	await expect(page).not.toHaveURL(/story-rack/);
});

test("changes, tasks and accounts are allowed away as files that open with their day", async ({ page }) => {
	await signIn(page, "ruth", "/changes");
	for (const [path, column] of [
		["/changes", "Deal number"],
		["/tasks", "Task"],
		["/accounts", "Account"],
	] as const) {
		await page.goto(path);
		const waiting = page.waitForEvent("download");
		await page.getByRole("button", { name: "Export" }).first().click();
		await page.locator(".dropdown-item", { hasText: "CSV" }).click();
		const file = await waiting;
		expect(file.suggestedFilename()).toMatch(/2026-11-24.*\.csv$/);
		const text = await readFile(await file.path(), "utf8");
		expect(text.split("\n")[0]).toContain(column);
		expect(text.split("\n").length).toBeGreaterThan(2);
	}
});
